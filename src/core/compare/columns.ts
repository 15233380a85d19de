import { loadSeconds } from '../pack/loading';
import { count } from '../tradeNames';
import { voicesPerCore } from './load';
import { kbpsOf, type MeasuredTrial } from './measured';

/** One figure of trials: how it is called, what it means, and which way is better. */
export interface TrialColumn {
  id: string;
  title: string;
  /** What stands behind the number; "" for none. */
  unit: string;
  /** What it means, and what it cannot see, for people. */
  says: string;
  decimals: number;
  /** null where neither end is better. */
  better: 'low' | 'high' | null;
  /** null where it has no meaning, or is not measured yet. */
  value(trial: MeasuredTrial): number | null;
}

const fidelity = (pick: (found: MeasuredTrial['figures']['fidelity']) => number | null) =>
  (({ figures }: MeasuredTrial) => pick(figures.fidelity)) satisfies TrialColumn['value'];

const less = (a: number | null, b: number | null) => (a === null || b === null ? null : a - b);

/** In per cent; what an older Bijou has measured has none. */
const share = (part: number | undefined) => (part === undefined ? null : part * 100);

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
    says: 'Processor time that decoding a second of it takes: the median of repeated runs on this machine, with this decoder. Other decoders cost more or less; the order among settings of one codec stays.',
    decimals: 2,
    better: 'low',
    value: ({ work }) => work?.msPerSecond.median ?? null,
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
  {
    id: 'seamScore',
    title: 'Seam',
    unit: '',
    says: 'How little one hears the place where it repeats, 0 to 100: of its loop, else of all of it.',
    decimals: 0,
    better: 'high',
    value: fidelity(({ seam }) => seam?.decoded.score ?? null),
  },
  {
    id: 'bandwidthHz',
    title: 'Bandwidth kept',
    unit: 'Hz',
    says: 'The highest frequency at which no more than 10 dB of the source is missing. It does not see what is missing below.',
    decimals: 0,
    better: 'high',
    value: fidelity(({ bandwidthHz }) => bandwidthHz),
  },
  {
    id: 'noiseDb',
    title: 'Noise added',
    unit: 'dB',
    says: 'The difference of the waveforms against the sound. It sees every change, heard or not: a turned polarity reads +6 dB.',
    decimals: 1,
    better: 'low',
    value: fidelity(({ noiseDb }) => noiseDb),
  },
  {
    id: 'likeness',
    title: 'Likeness',
    unit: '',
    says: 'Correlation of the waveforms: 1 is the same shape, −1 the same with its polarity turned.',
    decimals: 4,
    better: 'high',
    value: fidelity(({ likeness }) => likeness),
  },
  {
    id: 'nmrDb',
    title: 'Noise to mask',
    unit: 'dB',
    says: 'How far the noise lies above what the sound hides, by an ear model, on average; below 0 most of it is hidden. It compares magnitudes alone: turned polarity and small shifts are not seen, nor is what one ear hears of the other.',
    decimals: 1,
    better: 'low',
    value: fidelity(({ nmrDb }) => nmrDb),
  },
  {
    id: 'disturbed',
    title: 'Disturbed frames',
    unit: '%',
    says: 'The share of moments in which noise rises 1.5 dB above its mask in any band.',
    decimals: 1,
    better: 'low',
    value: fidelity(({ disturbed }) => disturbed * 100),
  },
  {
    id: 'worstHalfSecond',
    title: 'Worst half second',
    unit: '',
    says: 'The grade of the half second that is hurt most: a mean hides one broken beginning. The grade is never better than this by more than 1.',
    decimals: 2,
    better: 'high',
    value: fidelity(({ worstHalfSecond }) => worstHalfSecond?.grade ?? null),
  },
  {
    id: 'missing',
    title: 'Loudness missing',
    unit: '%',
    says: 'How much of the loudness is gone, band by band and moment by moment: a cut-off band, a sound that comes out too quiet.',
    decimals: 1,
    better: 'low',
    value: fidelity(({ missing }) => share(missing)),
  },
  {
    id: 'mixdownLossDb',
    title: 'Lost in mixing',
    unit: 'dB',
    says: 'How much lower the mix of its channels is than each of them: 0 where they are alike, −3 where they have nothing in common, far less where they cancel.',
    decimals: 1,
    better: 'high',
    value: fidelity(({ mixdownLossDb }) => mixdownLossDb ?? null),
  },
  {
    id: 'unheard',
    title: 'Below hearing',
    unit: '%',
    says: 'The share of moments in which the sound itself lies below what the ear model hears, with full scale at 92 dB: there the grade says little.',
    decimals: 0,
    better: null,
    value: fidelity(({ unheard }) => share(unheard)),
  },
  {
    id: 'grade',
    title: 'Grade',
    unit: '',
    says: 'From 0 (imperceptible) to −4 (very annoying): our own mapping of the two figures before, no standard’s. It orders settings of one sound well; it does not replace ears.',
    decimals: 3,
    better: 'high',
    value: fidelity(({ grade }) => grade),
  },
  {
    id: 'addedToneDb',
    title: 'Added tone',
    unit: 'dB',
    says: 'The strongest tone that was not there, below the strongest that was; only for sounds that are made of a few steady tones.',
    decimals: 1,
    better: 'low',
    value: fidelity(({ addedTones }) => addedTones?.[0]?.db ?? null),
  },
  {
    id: 'preEchoDb',
    title: 'Pre-echo',
    unit: 'dB',
    says: 'What was added before the worst sudden beginning, against the beginning itself; only for sounds that begin suddenly.',
    decimals: 1,
    better: 'low',
    value: fidelity(({ preEcho }) => preEcho?.worst.db ?? null),
  },
  {
    id: 'preEchoMs',
    title: 'Pre-echo lasts',
    unit: 'ms',
    says: 'For how long before that beginning something stands out that was not there; ears forgive a few milliseconds.',
    decimals: 0,
    better: 'low',
    value: fidelity(({ preEcho }) => preEcho?.worst.ms ?? null),
  },
  {
    id: 'levelChangeDb',
    title: 'Level change',
    unit: 'dB',
    says: 'How much louder it is than the source, as root mean square.',
    decimals: 2,
    better: null,
    value: fidelity(({ levels }) => less(levels.decoded.rmsDbfs, levels.source.rmsDbfs)),
  },
  {
    id: 'truePeakDbtp',
    title: 'True peak',
    unit: 'dBTP',
    says: 'Above 0, players cut it off.',
    decimals: 2,
    better: 'low',
    value: fidelity(({ truePeakDbtp }) => truePeakDbtp),
  },
  {
    id: 'correlationChange',
    title: 'Image change',
    unit: '',
    says: 'How much the correlation of the two channels has grown: above 0 the image is narrower than it was.',
    decimals: 3,
    better: null,
    value: fidelity(({ levels }) => less(levels.decoded.correlation, levels.source.correlation)),
  },
  {
    id: 'dcChange',
    title: 'DC',
    unit: '%',
    says: 'DC offset that was added, of full scale.',
    decimals: 3,
    better: null,
    value: fidelity(({ levels }) => (levels.decoded.dcOffset - levels.source.dcOffset) * 100),
  },
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
