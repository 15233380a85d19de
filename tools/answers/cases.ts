import type { Loop } from '@/core/marks';
import type { Step } from '@/core/recipe/types';
import { filledSettings, writerById } from '@/core/formats/write';
import { holdsRate, isSpan } from '@/core/formats/rates';
import { differenceDb, impulse, levelDb, LOOP_TONES, madeBy, ramp, tonesAt } from './signals';

/** One sound that is made into one file, and what has to come out of it. */
export interface KnownCase {
  group: string;
  what: string;
  sound: Float32Array[];
  rateHz: number;
  loop?: Loop;
  steps: Step[];
  writer: string;
  settings: object;
  /** What is wrong with what was decoded, in a few words; null where nothing is. What is exact errs by `exactDb`. */
  judge(decoded: Float32Array[], exactDb: number): string | null;
}

interface Form {
  writer: string;
  settings: object;
  /** What 16 bits or the codec leave, at most, in dB of full scale; null for lossy ones, which are held to themselves. */
  floorDb: number | null;
}

const forms: readonly Form[] = [
  { writer: 'wav', settings: { bits: 32 }, floorDb: -100 },
  { writer: 'wav', settings: { bits: 16 }, floorDb: -84 },
  { writer: 'aiff', settings: { bits: 24 }, floorDb: -100 },
  { writer: 'flac', settings: { bits: 16 }, floorDb: -84 },
  { writer: 'wav-ima-adpcm', settings: {}, floorDb: null },
  { writer: 'ogg', settings: { quality: 4 }, floorDb: null },
  { writer: 'ogg-opus', settings: { kbps: 96 }, floorDb: null },
  { writer: 'webm', settings: { kbps: 96 }, floorDb: null },
  { writer: 'mp3', settings: { quality: 2 }, floorDb: null },
  { writer: 'm4a', settings: { kbps: 96 }, floorDb: null },
];
const lossless = forms.filter(({ floorDb }) => floorDb !== null);

const step = (kind: string, params: Record<string, unknown> = {}): Step => ({
  kind,
  on: true,
  params,
});
const RATE = 44_100;
const allRates = [8_000, 11_025, 22_050, 32_000, 44_100, 48_000, 96_000];

/** Some of them for every day, or all. */
export function knownCases(scope: 'some' | 'all'): KnownCase[] {
  const rates = scope === 'all' ? allRates : [22_050, 48_000];
  return [
    ...forms.flatMap((form) => rates.flatMap((rateHz) => loopCases(form, rateHz))),
    ...lossless.flatMap(exactCases),
    ...forms.flatMap(levelCases),
    ...forms.flatMap(channelCases),
    ...rates.flatMap(impulseCases),
  ];
}

function takes({ writer }: Form, rateHz: number): boolean {
  const { rates } = writerById(writer).legal;
  return isSpan(rates) ? holdsRate(rates, rateHz) : rates.includes(rateHz);
}

/** As the form says, or the nearest that this rate has. */
function settingsAt({ writer, settings }: Form, rateHz: number): object {
  const kind = writerById(writer);
  const filled = filledSettings(kind, settings);
  return kind.refuses?.(filled, rateHz, 1) ? kind.nearest!(filled, rateHz, 1) : settings;
}

/** A whole-file loop: as good at its seam as elsewhere, and right where the format is exact. */
function loopCases(form: Form, rateHz: number): KnownCase[] {
  if (!takes(form, rateHz)) return [];
  const length = 60_001;
  const sound = madeBy(length, (i) => tonesAt(LOOP_TONES, i, length));
  const moved = Math.round((length * rateHz) / RATE);
  return [
    {
      group: 'loops',
      what: `${form.writer} ${JSON.stringify(form.settings)} at ${rateHz} Hz`,
      sound: [sound],
      rateHz: RATE,
      loop: { startFrame: 0, endFrame: length },
      steps: rateHz === RATE ? [] : [step('resample', { rateHz })],
      writer: form.writer,
      settings: settingsAt(form, rateHz),
      judge([found]) {
        if (found!.length !== moved) return `${found!.length} frames instead of ${moved}`;
        const wanted = (i: number) => tonesAt(LOOP_TONES, i, moved);
        const seam = differenceDb(found!, wanted, -256, 256);
        const middle = differenceDb(found!, wanted, 4_000, moved - 4_000);
        if (form.floorDb !== null && Math.max(seam, middle) > form.floorDb) {
          return `errs by ${seam.toFixed(1)} dB at the seam, ${middle.toFixed(1)} elsewhere`;
        }
        return seam > middle + 1
          ? `errs by ${seam.toFixed(1)} dB at the seam, ${middle.toFixed(1)} elsewhere`
          : null;
      },
    },
  ];
}

/** What formats that are exact and steps that only move samples must leave to the bit. */
function exactCases(form: Form): KnownCase[] {
  const frames = 20_000;
  const sound = ramp(frames);
  const moves: [what: string, step: Step[], wanted: (i: number) => number, frames: number][] = [
    ['nothing', [], (i) => sound[i]!, frames],
    ['reversed', [step('reverse')], (i) => sound[frames - 1 - i]!, frames],
    ['turned over', [step('polarity')], (i) => -sound[i]!, frames],
    [
      'a piece',
      [step('keep', { startFrame: 123, endFrame: 9_876 })],
      (i) => sound[i + 123]!,
      9_753,
    ],
    [
      'padded',
      [step('pad', { headFrames: 77, tailFrames: 5 })],
      (i) => sound[i - 77] ?? 0,
      frames + 82,
    ],
  ];
  return moves.map(([what, steps, wanted, length]) => ({
    group: 'exact',
    what: `${what}, ${form.writer} ${JSON.stringify(form.settings)}`,
    sound: [sound],
    rateHz: RATE,
    steps,
    ...form,
    judge([found], exactDb) {
      if (found!.length !== length) return `${found!.length} frames instead of ${length}`;
      const error = differenceDb(found!, wanted, 0, length);
      return error > exactDb ? `differs by ${error.toFixed(1)} dB` : null;
    },
  }));
}

/** Levels stay what they are, also where there is almost nothing. */
function levelCases(form: Form): KnownCase[] {
  const rateHz = takes(form, RATE) ? RATE : 48_000;
  const cases: [what: string, dbfs: number, toleranceDb: number][] = [
    ['a tone at −20 dBFS', -20, form.floorDb === null ? 0.3 : 0.01],
    ['a tone at −80 dBFS', -80, form.floorDb === null ? 6 : 1.5],
  ];
  // Four bits have no −80 dBFS.
  const some = form.writer === 'wav-ima-adpcm' ? cases.slice(0, 1) : cases;
  return some.map(([what, dbfs, toleranceDb]) => ({
    group: 'levels',
    what: `${what}, ${form.writer} ${JSON.stringify(form.settings)}`,
    sound: [
      madeBy(
        rateHz,
        (i) => Math.SQRT2 * 10 ** (dbfs / 20) * Math.sin((2 * Math.PI * 997 * i) / rateHz),
      ),
    ],
    rateHz,
    steps: [],
    ...form,
    judge([found]) {
      const level = levelDb(found!, 2_000, found!.length - 2_000);
      return Math.abs(level - dbfs) > toleranceDb ? `comes out at ${level.toFixed(1)} dBFS` : null;
    },
  }));
}

/** Opposite channels cancel when they are mixed, and each alone is what it was. */
function channelCases(form: Form): KnownCase[] {
  const rateHz = takes(form, RATE) ? RATE : 48_000;
  const one = madeBy(rateHz, (i) => 0.3 * Math.sin((2 * Math.PI * 441 * i) / rateHz));
  const sound = [one, one.map((x) => -x)];
  const modes: [mode: string, wanted: number | null][] = [
    ['mix', null],
    ['left', levelDb(one)],
    ['right', levelDb(one)],
  ];
  return modes.map(([mode, wanted]) => ({
    group: 'channels',
    what: `${mode} of opposite channels, ${form.writer} ${JSON.stringify(form.settings)}`,
    sound,
    rateHz,
    steps: [step('channels', { mode })],
    ...form,
    judge(found) {
      if (found.length !== 1) return `${found.length} channels`;
      const level = levelDb(found[0]!, 2_000, found[0]!.length - 2_000);
      if (wanted === null) return level > -85 ? `leaves ${level.toFixed(1)} dBFS` : null;
      return Math.abs(level - wanted) > 0.3 ? `comes out at ${level.toFixed(1)} dBFS` : null;
    },
  }));
}

/** An impulse comes to lie where the rates say, and as heavy as it was. */
function impulseCases(rateHz: number): KnownCase[] {
  const at = 7_777;
  return [
    {
      group: 'impulses',
      what: `at ${rateHz} Hz`,
      sound: [impulse(20_000, at)],
      rateHz: RATE,
      steps: rateHz === RATE ? [] : [step('resample', { rateHz })],
      writer: 'wav',
      settings: { bits: 32 },
      judge([found]) {
        const wanted = (at * rateHz) / RATE;
        // Where it is: the mean of all places, each as heavy as its sample.
        const sum = found!.reduce((total, x) => total + x, 0);
        const place = found!.reduce((total, x, i) => total + x * i, 0) / sum;
        if (Math.abs(place - wanted) > 0.01)
          return `lies at ${place.toFixed(2)}, not ${wanted.toFixed(2)}`;
        const weight = (sum * RATE) / rateHz;
        return Math.abs(weight - 0.5) > 0.001 ? `weighs ${weight.toFixed(4)}` : null;
      },
    },
  ];
}
