import { basename } from 'node:path';
import type { TableRow } from '@/core/collect/columns';
import { tableCsv } from '@/core/collect/table';
import { parseRaw } from '@/core/formats/raw/reader';
import type { ListedFacts } from '@/core/measure/probe';
import { worriesOf } from '@/core/measure/worries';
import { soundNameFrom } from '@/core/pack/names';
import { formatTime } from '@/core/time';
import { formatName, kilohertz, layoutName, plainNumber } from '@/core/tradeNames';
import { plural } from '@/core/words';
import type { Probed } from '../batch/tasks';
import { Batch } from '../batch/batch';
import { oneOutput } from '../convert/numbers';
import { STANDARD } from '../inputs';
import { Listing } from '../listing';
import { harmlessName, print } from '../output';
import { decibels, factsJson } from '../report';
import type { ProbeOptions } from './options';

/** Says what every file is. */
export async function runProbe(
  named: readonly string[],
  { json, jsonLines, csv, clicks = false, raw, threads }: ProbeOptions,
): Promise<number> {
  oneOutput({ json, 'json-lines': jsonLines, csv });
  const description = raw === undefined ? undefined : parseRaw(raw);
  const listing = await Listing.of(named);
  const batch = await Batch.of(listing, threads, {
    json,
    jsonLines,
    isQuiet: csv,
    hasProgress: true,
  });
  const rows: { path: string; row: TableRow }[] = [];
  const status = await batch.run({
    look: async () => undefined,
    prepare: () => undefined,
    work: async (input) => {
      const { file, place, index } = input;
      const found = await batch.do(input, {
        kind: 'probe',
        place,
        raw: description,
        clicks,
        voice: false,
      });
      const { facts, warnings } = found;
      const { path, folder } = file;
      const worries = worriesOf(facts, path === STANDARD ? null : path);
      if (csv) rows[index] = { path, row: rowOf(path, folder, facts, worries) };
      return {
        line: [
          ...lines(harmlessName(path), facts),
          ...(found.clicks ? clickLines(found.clicks, facts.sampleRateHz) : []),
          ...worries.map(({ sentence }) => `! ${sentence}`),
        ].join('\n  '),
        data: { ...factsJson(path, facts), worries, ...(found.clicks && { clicks: found.clicks }) },
        warnings: warnings.map((warning) => warning.message),
        seconds: facts.seconds,
        bytesBefore: facts.bytes,
      };
    },
  });
  if (csv) {
    // Files that failed have left a gap.
    const whole = rows.filter(Boolean);
    const file = { id: 'file', of: (at: number) => whole[at]!.path };
    const table = whole.map(({ row }) => row);
    await print(tableCsv(table, [file]).trimEnd());
  }
  return status;
}

function clickLines(clicks: NonNullable<Probed['clicks']>, rateHz: number): string[] {
  if (clicks.length === 0) return ['no clicks'];
  return clicks.map(
    ({ channel, startFrame, frames }) =>
      `click at ${formatTime(startFrame / rateHz)} (frame ${startFrame}), ` +
      `${plural(frames, 'frame')}, channel ${channel}`,
  );
}

function rowOf(
  file: string,
  folder: string,
  facts: ListedFacts,
  worries: TableRow['worries'],
): TableRow {
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
    seam: facts.seam,
  };
}

/** A line on what it is, one on its levels, one on its edges and contents. */
function lines(file: string, facts: ListedFacts): string[] {
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
