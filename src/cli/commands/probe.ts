import type { Command } from 'commander';
import { parseRaw } from '@/core/formats/raw/reader';
import type { Facts } from '@/core/measure/probe';
import { probe, type ProbeOptions } from '@/core/measure/probe';
import { worriesOf } from '@/core/measure/worries';
import { formatTime } from '@/core/time';
import { formatName, kilohertz, layoutName, plainNumber } from '@/core/tradeNames';
import { STANDARD, withInput } from '../inputs';
import { decibels, eachFile, factsJson } from '../report';

/** Reads one file to its end, within the limit on size. */
export async function probeFile(file: string, options: ProbeOptions = {}) {
  return withInput(file, (source) => probe(source, options));
}

export function addProbe(program: Command, done: (status: number) => void): void {
  program
    .command('probe')
    .description('say what each file is: format, rate, channels, length, levels, worries')
    .argument('<files...>', 'files to look at; - for standard input')
    .option('--json', 'print a JSON array instead of lines')
    .option('--raw <what>', 'samples without a header: encoding,rate,channels as in s16le,44100,2')
    .action(async (files: string[], options: { json?: boolean; raw?: string }) => {
      const raw = options.raw === undefined ? undefined : parseRaw(options.raw);
      const status = await eachFile(files, { json: options.json ?? false }, async (file) => {
        const { facts, warnings } = await probeFile(file, { raw });
        const worries = worriesOf(facts, file === STANDARD ? null : file);
        return {
          line: [...lines(file, facts), ...worries.map(({ sentence }) => `! ${sentence}`)].join(
            '\n  ',
          ),
          data: { ...factsJson(file, facts), worries },
          warnings: warnings.map((warning) => warning.message),
        };
      });
      done(status);
    });
}

/** A line on what it is, one on its levels, one on its edges and contents. */
function lines(file: string, facts: Facts): string[] {
  const seconds = (value: number) => `${plainNumber(value, 3)} s`;
  const what = [
    file,
    formatName(facts.container, facts.codec),
    facts.bitDepth === null ? null : `${facts.bitDepth}-bit`,
    `${facts.sampleRateHz} Hz`,
    layoutName(facts.channels),
    `${formatTime(facts.seconds)} (${facts.frames} frames)`,
    `${facts.bytes} bytes`,
    `peak ${decibels(facts.peakDbfs)}FS`,
    `RMS ${decibels(facts.rmsDbfs)}FS`,
  ];
  const levels = [
    `true peak ${decibels(facts.truePeakDbtp)}TP`,
    facts.lufs === null ? 'no loudness' : `${plainNumber(facts.lufs)} LUFS`,
    facts.loudnessRangeLu === null ? null : `range ${plainNumber(facts.loudnessRangeLu)} LU`,
    facts.correlation === null ? null : `correlation ${plainNumber(facts.correlation, 2)}`,
    `DC ${plainNumber(facts.dcOffset * 100, 2)} %`,
    facts.clippedRuns === 0 ? 'not clipped' : `clipped in ${facts.clippedRuns} places`,
  ];
  const contents = [
    `silence ${seconds(facts.headSilenceSeconds)} in front, ${seconds(facts.tailSilenceSeconds)} behind`,
    facts.bandwidthHz === null ? null : `bandwidth ${kilohertz(facts.bandwidthHz)}`,
    facts.usedBits === null ? null : `${facts.usedBits} bits used`,
    facts.loop ? `loop ${facts.loop.startFrame} to ${facts.loop.endFrame}` : null,
    facts.markers.length > 0 ? `${facts.markers.length} markers` : null,
    ...Object.entries(facts.tags).map(([name, text]) => `${name}: ${text}`),
  ];
  return [what, levels, contents].map((parts) => parts.filter((part) => part !== null).join('  '));
}
