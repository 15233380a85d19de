import type { Command } from 'commander';
import { formatName, layoutName } from '@/core/tradeNames';
import { probe, type ProbeOptions } from '@/core/measure/probe';
import { formatTime } from '@/core/time';
import { withFile } from '@/server/files/bytes';
import { mostBytes, tooLarge } from '@/server/limits';
import { decibels, eachFile, factsJson } from '../report';

/** Reads one file to its end, within the limit on size. */
export async function probeFile(file: string, options: ProbeOptions = {}) {
  return withFile(file, (source) => {
    if (source.size > mostBytes()) throw tooLarge();
    return probe(source, options);
  });
}

export function addProbe(program: Command, done: (status: number) => void): void {
  program
    .command('probe')
    .description('say what each file is: format, rate, channels, length, levels')
    .argument('<files...>', 'files to look at')
    .option('--json', 'print a JSON array instead of lines')
    .action(async (files: string[], { json = false }: { json?: boolean }) => {
      const status = await eachFile(files, json, async (file) => {
        const { facts, warnings } = await probeFile(file);
        const line = [
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
        return {
          line: line.filter((part) => part !== null).join('  '),
          data: factsJson(file, facts),
          warnings: warnings.map((warning) => warning.message),
        };
      });
      done(status);
    });
}
