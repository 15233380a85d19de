import { LEAST_OFFSET_SECONDS } from '../dsp/offset';
import { readers } from '../formats/readers';
import { clicks } from '../loop/seam';
import { mostCrossfade } from '../recipe/steps/loop';
import type { Step } from '../recipe/types';
import { formatTime } from '../time';
import { formatName, kilohertz, plainNumber } from '../tradeNames';
import type { Warning } from '../formats/types';
import type { ListedFacts } from './probe';
import { plural } from '../words';

/** Something about a sound that its owner will want to know, with a cure where steps can be one. */
export interface Worry {
  code: string;
  /** In two words, for a chip. */
  name: string;
  sentence: string;
  cure: Step[];
}

interface WorryKind {
  code: string;
  name: string;
  /** null where there is nothing to worry about. */
  find(facts: ListedFacts, fileName: string | null): { sentence: string; cure?: Step[] } | null;
}

const step = (kind: string, params: Record<string, unknown> = {}): Step => ({
  kind,
  on: true,
  params,
});

/** Encoders cut here; below, a lower sample rate is the likelier reason. */
const LOSSY_SHELF_HZ = { from: 14_800, to: 20_900 };
/** Takes a click away and is too short to be heard as a fade. */
const CURING_CROSSFADE_SECONDS = 0.02;
const lossless = new Set(['pcm', 'float', 'flac', 'alac', 'ima-adpcm']);

const kinds: readonly WorryKind[] = [
  {
    code: 'silent',
    name: 'silent',
    find: ({ peakDbfs }) =>
      peakDbfs === null ? { sentence: 'There is nothing but silence in it.' } : null,
  },
  {
    code: 'name-disagrees',
    name: 'wrong ending',
    find({ container, codec }, fileName) {
      const ending = /\.([a-z0-9]{1,8})$/i.exec(fileName ?? '')?.[1]?.toLowerCase();
      const named = readers.find((reader) => ending && reader.extensions.includes(ending));
      const found = container === 'matroska' ? 'webm' : container;
      if (!named || named.id === found) return null;
      const inside = formatName(container, codec);
      return { sentence: `Its name says ${named.name}, but inside it is ${inside}.` };
    },
  },
  {
    code: 'lossy-before',
    name: 'was lossy',
    find({ codec, shelfHz, sampleRateHz }) {
      const { from, to } = LOSSY_SHELF_HZ;
      if (!lossless.has(codec) || shelfHz === null || sampleRateHz < 32_000) return null;
      if (shelfHz < from || shelfHz > to) return null;
      return {
        sentence:
          `Its spectrum ends in a shelf at ${kilohertz(round(shelfHz, 100))}, as lossy encoders leave it: ` +
          'it was probably lossy before. Use the original if there is one.',
      };
    },
  },
  {
    code: 'clipped',
    name: 'clipped',
    find({ clippedRuns, clippedPlaces, sampleRateHz }) {
      const [first] = clippedPlaces;
      if (!first) return null;
      const places = plural(clippedRuns, 'place');
      return {
        sentence: `It is clipped in ${places}, first at ${formatTime(first.startFrame / sampleRateHz)}.`,
      };
    },
  },
  {
    code: 'loop-clicks',
    name: 'loop clicks',
    find({ seam, loop, sampleRateHz }) {
      if (!seam || !clicks(seam)) return null;
      const sentence = `Its loop clicks where it repeats: the seam scores ${plainNumber(seam.score, 0)} of 100.`;
      const crossfadeFrames = Math.round(CURING_CROSSFADE_SECONDS * sampleRateHz);
      const hasRoom = loop && crossfadeFrames <= mostCrossfade(loop);
      if (!hasRoom) return { sentence };
      const { startFrame, endFrame } = loop;
      const params = { startFrame, endFrame, introFrames: 0, tailFrames: 0, crossfadeFrames };
      return {
        sentence,
        cure: [step('loop', { ...params, seam: 'crossfade', curve: 'correlation' })],
      };
    },
  },
  {
    code: 'silent-head',
    name: 'silence in front',
    find({ peakDbfs, headSilenceSeconds, frames, sampleRateHz }) {
      if (
        peakDbfs === null ||
        headSilenceSeconds < 0.1 ||
        isAllQuiet(headSilenceSeconds, frames, sampleRateHz)
      )
        return null;
      const startFrame = Math.round(headSilenceSeconds * sampleRateHz);
      return {
        sentence: `It begins with ${plainNumber(headSilenceSeconds, 2)} s of silence.`,
        cure: [step('keep', { startFrame, endFrame: frames })],
      };
    },
  },
  {
    code: 'silent-tail',
    name: 'silence behind',
    find({ peakDbfs, tailSilenceSeconds, frames, sampleRateHz }) {
      if (
        peakDbfs === null ||
        tailSilenceSeconds < 0.5 ||
        isAllQuiet(tailSilenceSeconds, frames, sampleRateHz)
      )
        return null;
      const endFrame = frames - Math.round(tailSilenceSeconds * sampleRateHz);
      return {
        sentence: `It ends with ${plainNumber(tailSilenceSeconds, 2)} s of silence.`,
        cure: [step('keep', { startFrame: 0, endFrame })],
      };
    },
  },
  {
    code: 'rate-doubtful',
    name: 'rate doubtful',
    find({ otherRates, sampleRateHz }) {
      const [other] = otherRates;
      if (!other) return null;
      return {
        sentence:
          `Its rate is labelled ${kilohertz(sampleRateHz)}, but ${other.where} says ${kilohertz(other.rateHz)}. ` +
          'Listen whether it plays at the right speed.',
        cure: [step('relabel', { rateHz: other.rateHz })],
      };
    },
  },
  {
    code: 'identical-channels',
    name: 'channels alike',
    find: ({ identicalChannels, peakDbfs }) =>
      identicalChannels && peakDbfs !== null
        ? {
            sentence: 'All its channels hold the same: one of them is enough.',
            cure: [step('channels', { mode: 'left' })],
          }
        : null,
  },
  {
    code: 'opposite-polarity',
    name: 'opposite polarity',
    find: ({ correlation, channels }) =>
      channels === 2 && correlation !== null && correlation < -0.5
        ? {
            sentence:
              `Left and right work against each other (correlation ${plainNumber(correlation, 2)}): ` +
              'mixed to mono, they would mostly cancel.',
            cure: [step('channels', { mode: 'left' })],
          }
        : null,
  },
  {
    code: 'very-quiet',
    name: 'very quiet',
    find({ lufs, peakDbfs }) {
      const isQuiet = lufs === null ? (peakDbfs ?? 0) < -40 : lufs < -40 && (peakDbfs ?? 0) < -20;
      if (!isQuiet || peakDbfs === null) return null;
      return {
        sentence: `It is very quiet: its peak is ${plainNumber(peakDbfs)} dBFS.`,
        cure: [step('normalise', { to: 'true-peak', target: -1 })],
      };
    },
  },
  {
    code: 'dc-offset',
    name: 'DC offset',
    find({ dcOffset, peakDbfs, seconds }) {
      if (peakDbfs === null || seconds < LEAST_OFFSET_SECONDS) return null;
      const costDb = levelCostOf(dcOffset, peakDbfs);
      const clicks = Math.abs(dcOffset) >= CLICKING_OFFSET;
      if (!clicks && costDb < LEAST_COST_DB) return null;
      const why = [
        ...(costDb >= LEAST_COST_DB ? [`costs ${plainNumber(costDb)} dB of level`] : []),
        ...(clicks ? ['clicks where it begins and ends'] : []),
      ];
      return {
        sentence: `It lies off the middle by ${plainNumber(dcOffset * 100, 2)} % (DC offset), which ${why.join(' and ')}.`,
        cure: [step('offset')],
      };
    },
  },
  {
    code: 'unused-bits',
    name: 'unused bits',
    find: ({ bitDepth, usedBits, codec }) =>
      bitDepth !== null &&
      usedBits !== null &&
      usedBits > 0 &&
      codec !== 'ima-adpcm' &&
      usedBits <= bitDepth - 8
        ? {
            sentence: `Of its ${bitDepth} bits ${usedBits ?? 0} are used: a file of ${usedBits <= 8 ? 8 : 16} bits holds the same.`,
          }
        : null,
  },
  {
    code: 'spare-rate',
    name: 'spare rate',
    find({ bandwidthHz, sampleRateHz, peakDbfs }) {
      if (bandwidthHz === null || peakDbfs === null) return null;
      const enough = RATES.find((rate) => bandwidthHz <= rate * 0.45);
      if (enough === undefined || enough > sampleRateHz * 0.75) return null;
      return {
        sentence:
          `There is nothing above ${kilohertz(round(bandwidthHz, 100))}: ` +
          `${kilohertz(enough)} would hold all of it, and it is stored at ${kilohertz(sampleRateHz)}.`,
        cure: [step('resample', { rateHz: enough })],
      };
    },
  },
];

/** A step of so much of full scale, -36 dBFS, is heard as a click. What lies below it is a fact among others. */
const CLICKING_OFFSET = 0.015;
const LEAST_COST_DB = 1;

/** How much louder a sound could be if it lay in the middle, in dB. */
function levelCostOf(dcOffset: number, peakDbfs: number): number {
  const peak = 10 ** (peakDbfs / 20);
  const room = peak - Math.abs(dcOffset);
  return room > 0 ? 20 * Math.log10(peak / room) : Infinity;
}

const RATES = [8_000, 11_025, 16_000, 22_050, 32_000, 44_100, 48_000, 88_200, 96_000];

/** Everything quiet is said once, as such. */
function isAllQuiet(silenceSeconds: number, frames: number, rateHz: number): boolean {
  return silenceSeconds >= frames / rateHz;
}

function round(value: number, to: number): number {
  return Math.round(value / to) * to;
}

/** What readers have to say of a damaged or odd file, in two words. */
const warningNames: Partial<Record<Warning['code'], string>> = {
  truncated: 'cut off',
  'lying-length': 'wrong length inside',
  'damaged-frames': 'damaged',
  'no-delay-header': 'padding unknown',
  checksum: 'checksum wrong',
  'not-finite': 'no numbers inside',
  'many-markers': 'too many markers',
  'loop-outside': 'loop outside',
  extra: 'more inside',
};

/**
 * What there is to worry about, most telling first: what its reader warned of, then what its measures
 * say. `fileName` is the name that the file came with.
 */
export function worriesOf(
  facts: ListedFacts,
  fileName: string | null,
  warnings: readonly Warning[] = [],
): Worry[] {
  const warned = warnings.map(({ code, message }): Worry => ({
    code,
    name: warningNames[code] ?? 'odd',
    sentence: message,
    cure: [],
  }));
  const found = kinds.flatMap(({ code, name, find }) => {
    const worry = find(facts, fileName);
    return worry ? [{ code, name, sentence: worry.sentence, cure: worry.cure ?? [] }] : [];
  });
  return [...warned, ...found];
}
