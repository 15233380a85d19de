import { basename } from 'node:path';
import type { Command } from 'commander';
import type { TableRow } from '@/core/collect/columns';
import { tableCsv } from '@/core/collect/table';
import { declickDefaults, findClicks } from '@/core/dsp/declick';
import { BijouError } from '@/core/errors';
import { openSound } from '@/core/formats/open';
import { parseRaw } from '@/core/formats/raw/reader';
import type { Facts } from '@/core/measure/probe';
import { probe, type ProbeOptions } from '@/core/measure/probe';
import { worriesOf } from '@/core/measure/worries';
import { soundNameFrom } from '@/core/pack/names';
import { formatTime } from '@/core/time';
import { formatName, kilohertz, layoutName, plainNumber } from '@/core/tradeNames';
import { STANDARD, withInput } from '../inputs';
import { listFiles } from '../listing';
import { print } from '../output';
import { decibels, eachFile, factsJson } from '../report';
import { plural } from '@/core/words';

/** Reads one file to its end, within the limit on size. */
export async function probeFile(file: string | Buffer, options: ProbeOptions = {}) {
  return withInput(file, (source) => probe(source, options));
}

/** Where a declick would mend a file, by channel from 1 and in frames. */
async function clicksIn(file: string | Buffer, options: ProbeOptions) {
  const found = await withInput(file, async (source) => {
    const { pcm } = await openSound(source, options.raw);
    return findClicks(pcm(), declickDefaults);
  });
  return found.map(({ channel, startFrame, samples }) => ({
    channel: channel + 1,
    startFrame,
    frames: samples.length,
  }));
}

interface Options {
  json?: boolean;
  clicks?: boolean;
  csv?: boolean;
  raw?: string;
}

export function addProbe(program: Command, done: (status: number) => void): void {
  program
    .command('probe')
    .description('say what each file is: format, rate, channels, length, levels, worries')
    .argument('<files...>', 'files and folders to look at; - for standard input')
    .option('--json', 'print a JSON array instead of lines')
    .option('--csv', 'print the table of Collect as CSV')
    .option('--clicks', 'list what --declick would mend, and change nothing')
    .option('--raw <what>', 'samples without a header: encoding,rate,channels as in s16le,44100,2')
    .action(async (named: string[], options: Options) => {
      const { json = false, csv = false, raw } = options;
      if (json && csv) throw twoOutputs();
      const description = raw === undefined ? undefined : parseRaw(raw);
      const rows: { path: string; row: TableRow }[] = [];
      const files = await listFiles(named);
      const paths = files.map(({ path }) => path);
      const status = await eachFile(paths, { json, quiet: csv }, async (file, index) => {
        const { place, folder } = files[index]!;
        const { facts, warnings } = await probeFile(place, { raw: description });
        const clicks = options.clicks && (await clicksIn(place, { raw: description }));
        const worries = worriesOf(facts, file === STANDARD ? null : file);
        rows.push({ path: file, row: rowOf(file, folder, facts, worries) });
        return {
          line: [
            ...lines(file, facts),
            ...(clicks ? clickLines(clicks, facts.sampleRateHz) : []),
            ...worries.map(({ sentence }) => `! ${sentence}`),
          ].join('\n  '),
          data: { ...factsJson(file, facts), worries, ...(clicks && { clicks }) },
          warnings: warnings.map((warning) => warning.message),
        };
      });
      if (csv) {
        const file = { id: 'file', of: (at: number) => rows[at]!.path };
        const table = rows.map(({ row }) => row);
        await print(tableCsv(table, [file]).trimEnd());
      }
      done(status);
    });
}

type Clicks = Awaited<ReturnType<typeof clicksIn>>;

function clickLines(clicks: Clicks, rateHz: number): string[] {
  if (clicks.length === 0) return ['no clicks'];
  return clicks.map(
    ({ channel, startFrame, frames }) =>
      `click at ${formatTime(startFrame / rateHz)} (frame ${startFrame}), ` +
      `${plural(frames, 'frame')}, channel ${channel}`,
  );
}

function rowOf(file: string, folder: string, facts: Facts, worries: TableRow['worries']): TableRow {
  const fileName = basename(file);
  return {
    name: soundNameFrom(fileName),
    group: folder,
    labels: [],
    note: '',
    fileName,
    folder,
    addedAt: null,
    usedIn: [],
    bytes: facts.bytes,
    facts,
    worries,
  };
}

function twoOutputs(): BijouError {
  return new BijouError(
    'wrong-call',
    'Only one of --json and --csv can be printed.',
    'Leave one of them out.',
  );
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
    facts.clippedRuns === 0 ? 'not clipped' : `clipped in ${plural(facts.clippedRuns, 'place')}`,
  ];
  const contents = [
    `silence ${seconds(facts.headSilenceSeconds)} in front, ${seconds(facts.tailSilenceSeconds)} behind`,
    facts.bandwidthHz === null ? null : `bandwidth ${kilohertz(facts.bandwidthHz)}`,
    facts.usedBits === null ? null : `${facts.usedBits} bits used`,
    facts.loop ? `loop ${facts.loop.startFrame} to ${facts.loop.endFrame}` : null,
    facts.markers.length > 0 ? plural(facts.markers.length, 'marker') : null,
    ...Object.entries(facts.tags).map(([name, text]) => `${name}: ${text}`),
  ];
  return [what, levels, contents].map((parts) => parts.filter((part) => part !== null).join('  '));
}
