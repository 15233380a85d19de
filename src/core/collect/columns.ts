import prettyBytes from 'pretty-bytes';
import type { ListedFacts } from '../measure/probe';
import { formatTime } from '../time';
import { count, formatName, kilohertz, layoutName, plainNumber } from '../tradeNames';

/** What a line of the table of sounds is made from. */
export interface TableRow {
  name: string;
  /** Groups from outer to inner, joined with "/"; "" for none. */
  group: string;
  labels: readonly string[];
  note: string;
  fileName: string;
  folder: string;
  /** ISO 8601; null for a file that was never taken in. */
  addedAt: string | null;
  /** Destinations by title. */
  usedIn: readonly string[];
  bytes: number;
  /** null until it has been read. */
  facts: ListedFacts | null;
  worries: readonly { name: string }[];
  /** Of the loop that it has now; null without one. */
  seam: { score: number } | null;
}

/** The line of a sound of a project: worries that were cured or set aside are none any more. */
export function tableRow(
  sound: Omit<TableRow, 'usedIn' | 'worries'> & {
    worries: readonly { name: string; state: string }[];
  },
  usedIn: readonly string[],
): TableRow {
  return { ...sound, usedIn, worries: sound.worries.filter(({ state }) => state === 'open') };
}

type Value = number | string | null;

/** One column of the table: on the screen, in CSV and in JSON alike. */
export interface TableColumn {
  /** Field name in CSV and JSON; stable. */
  id: string;
  /** Heading on the screen. */
  title: string;
  /** What it means, for whoever does not know the term. */
  hint?: string;
  /** `number` sorts and filters by size, `choice` by equal values, `text` by letters. */
  kind: 'number' | 'choice' | 'text';
  /** What a typed number counts: `kHz`, 1,000 times the value's own unit. */
  unit?: { name: string; size: number };
  /** Width on the screen in pixels. */
  width: number;
  /** Shown before anybody has chosen. */
  shown?: true;
  /** null where there is none, or none is known yet. */
  value(row: TableRow): Value;
  /** For people; left out where the value reads well as it is. */
  text?(row: TableRow): string;
}

/** A column about what was measured, empty until it has been. */
function fact(
  column: Omit<TableColumn, 'value' | 'text'> & {
    of(facts: ListedFacts): Value;
    show?(facts: ListedFacts): string;
  },
): TableColumn {
  const { of, show, ...rest } = column;
  return {
    ...rest,
    value: ({ facts }) => (facts ? of(facts) : null),
    ...(show && { text: ({ facts }: TableRow) => (facts ? show(facts) : '') }),
  };
}

const seconds = { name: 's', size: 1 };
const dashed = (value: number | null, decimals = 1) =>
  value === null ? '–' : plainNumber(value, decimals);
/** Levels always with one decimal, so that columns line up; silence has no number. */
const level = (value: number | null) =>
  value === null ? '−∞' : value.toFixed(1).replace('-', '−');

/** Every column, in the order in which they stand at first. */
export const tableColumns: readonly TableColumn[] = [
  { id: 'name', title: 'Name', kind: 'text', width: 160, shown: true, value: ({ name }) => name },
  {
    id: 'worries',
    title: 'Worries',
    hint: 'What its measures give reason to look at',
    kind: 'text',
    width: 204,
    shown: true,
    value: ({ worries }) => worries.map(({ name }) => name).join('; '),
  },
  { id: 'group', title: 'Group', kind: 'choice', width: 130, value: ({ group }) => group },
  {
    id: 'labels',
    title: 'Labels',
    kind: 'text',
    width: 120,
    value: ({ labels }) => labels.join('; '),
  },
  { id: 'note', title: 'Note', kind: 'text', width: 160, value: ({ note }) => note },
  fact({
    id: 'format',
    title: 'Found inside',
    hint: 'Container and codec, whatever its name says',
    kind: 'choice',
    width: 122,
    shown: true,
    of: ({ container, codec }) => formatName(container, codec),
  }),
  fact({
    id: 'bitDepth',
    title: 'Depth',
    hint: 'Bits of a stored sample; lossy codecs have none',
    kind: 'number',
    width: 66,
    of: ({ bitDepth }) => bitDepth,
    show: ({ bitDepth }) => (bitDepth === null ? '–' : `${bitDepth} bit`),
  }),
  fact({
    id: 'sampleRateHz',
    title: 'Rate',
    kind: 'number',
    unit: { name: 'kHz', size: 1_000 },
    width: 82,
    shown: true,
    of: ({ sampleRateHz }) => sampleRateHz,
    show: ({ sampleRateHz }) => kilohertz(sampleRateHz),
  }),
  fact({
    id: 'channels',
    title: 'Channels',
    kind: 'number',
    width: 78,
    shown: true,
    of: ({ channels }) => channels,
    show: ({ channels }) => layoutName(channels),
  }),
  fact({
    id: 'seconds',
    title: 'Length',
    kind: 'number',
    unit: seconds,
    width: 82,
    shown: true,
    of: (facts) => facts.seconds,
    show: (facts) => formatTime(facts.seconds),
  }),
  fact({
    id: 'frames',
    title: 'Frames',
    hint: 'One frame is one sample of every channel',
    kind: 'number',
    width: 96,
    of: ({ frames }) => frames,
    show: ({ frames }) => count(frames),
  }),
  {
    id: 'bytes',
    title: 'Size',
    kind: 'number',
    unit: { name: 'kB', size: 1_000 },
    width: 74,
    shown: true,
    value: ({ bytes }) => bytes,
    text: ({ bytes }) => prettyBytes(bytes),
  },
  fact({
    id: 'bitRateKbps',
    title: 'Bit rate',
    kind: 'number',
    unit: { name: 'kbit/s', size: 1 },
    width: 96,
    of: ({ bitRateKbps }) => bitRateKbps,
    show: ({ bitRateKbps }) => `${Math.round(bitRateKbps)} kbit/s`,
  }),
  fact({
    id: 'peakDbfs',
    title: 'Peak',
    hint: 'Loudest sample, in dBFS: dB below full scale',
    kind: 'number',
    width: 88,
    of: ({ peakDbfs }) => peakDbfs,
    show: ({ peakDbfs }) => level(peakDbfs),
  }),
  fact({
    id: 'truePeakDbtp',
    title: 'True peak',
    hint: 'Loudest place, also between the samples, in dBTP',
    kind: 'number',
    width: 80,
    shown: true,
    of: ({ truePeakDbtp }) => truePeakDbtp,
    show: ({ truePeakDbtp }) => level(truePeakDbtp),
  }),
  fact({
    id: 'rmsDbfs',
    title: 'RMS',
    hint: 'Mean level in dBFS',
    kind: 'number',
    width: 84,
    of: ({ rmsDbfs }) => rmsDbfs,
    show: ({ rmsDbfs }) => level(rmsDbfs),
  }),
  fact({
    id: 'lufs',
    title: 'LUFS',
    hint: 'Loudness of the whole sound; the shortest have none',
    kind: 'number',
    width: 62,
    shown: true,
    of: ({ lufs }) => lufs,
    show: ({ lufs }) => (lufs === null ? '–' : level(lufs)),
  }),
  fact({
    id: 'headSilenceSeconds',
    title: 'Silence in front',
    kind: 'number',
    unit: seconds,
    width: 92,
    of: ({ headSilenceSeconds }) => headSilenceSeconds,
    show: ({ headSilenceSeconds }) => `${plainNumber(headSilenceSeconds, 3)} s`,
  }),
  fact({
    id: 'tailSilenceSeconds',
    title: 'Silence behind',
    kind: 'number',
    unit: seconds,
    width: 92,
    of: ({ tailSilenceSeconds }) => tailSilenceSeconds,
    show: ({ tailSilenceSeconds }) => `${plainNumber(tailSilenceSeconds, 3)} s`,
  }),
  fact({
    id: 'bandwidthHz',
    title: 'Bandwidth',
    hint: 'Where its spectrum ends',
    kind: 'number',
    unit: { name: 'kHz', size: 1_000 },
    width: 92,
    of: ({ bandwidthHz }) => bandwidthHz,
    show: ({ bandwidthHz }) =>
      bandwidthHz === null ? '–' : kilohertz(Math.round(bandwidthHz / 100) * 100),
  }),
  fact({
    id: 'correlation',
    title: 'Correlation',
    hint: 'Of the first two channels: 1 the same, −1 opposite',
    kind: 'number',
    width: 92,
    of: ({ correlation }) => correlation,
    show: ({ correlation }) => dashed(correlation, 2),
  }),
  fact({
    id: 'dcOffset',
    title: 'DC offset',
    hint: 'How far off the middle, as a part of full scale',
    kind: 'number',
    unit: { name: '%', size: 0.01 },
    width: 84,
    of: ({ dcOffset }) => dcOffset,
    show: ({ dcOffset }) => `${plainNumber(dcOffset * 100, 2)} %`,
  }),
  fact({
    id: 'loop',
    title: 'Loop',
    hint: 'Frames of the loop that the file itself marks',
    kind: 'text',
    width: 120,
    of: ({ loop }) => (loop ? `${loop.startFrame} to ${loop.endFrame}` : null),
  }),
  {
    id: 'seamScore',
    title: 'Seam',
    hint: 'How little one hears where its loop repeats: 0 to 100',
    kind: 'number',
    width: 64,
    value: ({ seam }) => seam?.score ?? null,
    text: ({ seam }) => (seam ? plainNumber(seam.score, 0) : '–'),
  },
  fact({
    id: 'tags',
    title: 'Tags',
    kind: 'text',
    width: 160,
    of: ({ tags }) =>
      Object.entries(tags)
        .map(([name, text]) => `${name}: ${text}`)
        .join('; '),
  }),
  {
    id: 'usedIn',
    title: 'Goes to',
    hint: 'Destinations it is assigned to',
    kind: 'text',
    width: 122,
    shown: true,
    value: ({ usedIn }) => usedIn.join('; '),
  },
  { id: 'fileName', title: 'File', kind: 'text', width: 150, value: ({ fileName }) => fileName },
  { id: 'folder', title: 'Folder', kind: 'choice', width: 130, value: ({ folder }) => folder },
  {
    id: 'addedAt',
    title: 'Added',
    kind: 'text',
    width: 128,
    value: ({ addedAt }) => addedAt,
    text: ({ addedAt }) => addedAt?.slice(0, 16).replace('T', ' ') ?? '',
  },
];

/** What stands in a cell for people. */
export function cellText(column: TableColumn, row: TableRow): string {
  return column.text?.(row) ?? String(column.value(row) ?? '');
}
