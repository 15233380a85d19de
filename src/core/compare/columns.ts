import { loadSeconds } from '../pack/loading';
import { fidelityColumns } from './fidelityColumns';
import { count } from '../tradeNames';
import { voicesPerCore } from './load';
import { kbpsOf, type TrialColumn } from './measured';
import { nativeCostOf } from './nativeCost';

/** Every figure, in the order in which tables show them. */
export const trialColumns: readonly TrialColumn[] = [
  {
    id: 'bytes',
    title: 'Size',
    unit: 'bytes',
    says: 'The whole file, tags and all that stands around the sound included.',
    decimals: 0,
    better: 'low',
    value: ({ figures }) => figures.bytes,
  },
  {
    id: 'bytesPerMinute',
    title: 'Per minute',
    unit: 'bytes',
    says: 'What a minute of it would weigh.',
    decimals: 0,
    better: 'low',
    value: ({ figures, sound }) => (figures.bytes / sound.seconds) * 60,
  },
  {
    id: 'kbps',
    title: 'Bit rate',
    unit: 'kbit/s',
    says: 'What the file really comes to, whatever rate was asked for.',
    decimals: 1,
    better: 'low',
    value: kbpsOf,
  },
  {
    id: 'ratio',
    title: 'Of the source',
    unit: '',
    says: 'Its bytes divided by those of the file that came in.',
    decimals: 3,
    better: 'low',
    value: ({ figures, sound }) => figures.bytes / sound.sourceBytes,
  },
  {
    id: 'pcmRatio',
    title: 'Of 16-bit PCM',
    unit: '',
    says: 'Its bytes divided by those of the same sound as plain 16-bit samples at its own rate and channels.',
    decimals: 3,
    better: 'low',
    value: ({ figures, sound: { seconds, sampleRateHz, channels } }) =>
      figures.bytes / (seconds * sampleRateHz * channels * 2),
  },
  {
    id: 'overheadBytes',
    title: 'Around it',
    unit: 'bytes',
    says: 'Headers, index and tags: what of the file is not encoded sound.',
    decimals: 0,
    better: 'low',
    value: ({ figures }) => figures.overheadBytes,
  },
  ...([2, 10, 50] as const).map((mbits): TrialColumn => {
    return {
      id: `load${mbits}Seconds`,
      title: `Load at ${mbits} Mbit/s`,
      unit: 's',
      says: `How long its bytes take over a link of ${mbits} Mbit/s, without asking for them.`,
      decimals: 3,
      better: 'low',
      value: ({ figures }) => loadSeconds(figures.bytes, mbits),
    };
  }),
  {
    id: 'encodeRealtime',
    title: 'Encoding',
    unit: '× real time',
    says: 'How many seconds of sound are encoded in a second of processor time.',
    decimals: 1,
    better: 'high',
    value: ({ encodeMs, sound }) => (encodeMs ? (sound.seconds * 1000) / encodeMs : null),
  },
  {
    id: 'decodeMsPerSecond',
    title: 'Decode cost',
    unit: 'ms/s',
    says: 'Processor time that decoding a second of it takes: the median of repeated runs on this machine, with the decoder that Bijou uses. The order among settings of one codec stays with others; for the order of codecs in a game see native decoders.',
    decimals: 2,
    better: 'low',
    value: ({ work }) => work?.msPerSecond.median ?? null,
  },
  {
    id: 'nativeCost',
    title: 'Native decoders',
    unit: '× MP3',
    says: 'What decoding it takes with the C libraries that games use, MP3 in stereo at 44.1 kHz being 1: from a table that was measured once, by codec, rate and channels. Go by it to put codecs in order.',
    decimals: 2,
    better: 'low',
    value: ({ candidate: { codec }, figures: { sampleRateHz, channels } }) =>
      nativeCostOf({ codec, sampleRateHz, channels }),
  },
  {
    id: 'voicesPerCore',
    title: 'Voices per core',
    unit: '',
    says: 'How many of it one core of this machine could decode at once, and do nothing else.',
    decimals: 0,
    better: 'high',
    value: ({ work }) => work && voicesPerCore(work.msPerSecond),
  },
  {
    id: 'firstBlockMs',
    title: 'First block',
    unit: 'ms',
    says: 'From bytes in memory to the first frames: opening the file, setting up the decoder.',
    decimals: 2,
    better: 'low',
    value: ({ work }) => work?.firstBlockMs ?? null,
  },
  {
    id: 'extraHeadFrames',
    title: 'Extra in front',
    unit: 'frames',
    says: 'What players hear before the sound that do not honour what the file says about it: a gap in every loop.',
    decimals: 0,
    better: 'low',
    value: ({ figures }) => figures.extraHeadFrames,
  },
  {
    id: 'extraTailFrames',
    title: 'Extra behind',
    unit: 'frames',
    says: 'What such players hear behind it.',
    decimals: 0,
    better: 'low',
    value: ({ figures }) => figures.extraTailFrames,
  },
  ...fidelityColumns,
];

/** A figure for people, without its unit; a dash where there is none. */
export function columnNumber(
  { decimals }: Pick<TrialColumn, 'decimals'>,
  value: number | null,
): string {
  if (value === null) return '–';
  if (decimals === 0) return count(Math.round(value)).replace('-', '−');
  const text = value.toFixed(decimals);
  // What rounds to nothing has no sign.
  return Number(text) === 0 ? text.replace('-', '') : text.replace('-', '−');
}

/** @throws for a column that is none */
export function trialColumn(id: string): TrialColumn {
  const found = trialColumns.find((column) => column.id === id);
  if (!found) throw new Error(`no column ${id}`);
  return found;
}

/** The figures that are shown where nobody has chosen others. */
export const usualColumnIds = [
  'bytes',
  'kbps',
  'grade',
  'nmrDb',
  'bandwidthHz',
  'decodeMsPerSecond',
  'nativeCost',
];
