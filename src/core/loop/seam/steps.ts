import type { Sides } from './sides';

/** What jumps at a seam, against what is usual on both its sides. */
export interface SeamSteps {
  /** Relative to the level around, in dB; `NO_STEP_DB` where nothing jumps that is not usual. */
  levelStepDb: number;
  /** Change of the slope at the seam over one frame at 48 kHz, likewise. */
  slopeStepDb: number;
}

export const NO_STEP_DB = -144;

/** So far on both sides it is looked what is usual. */
const USUAL_SECONDS = 0.02;
/** The level around is that of so much. */
const LEVEL_SECONDS = 0.05;
/** What jumps ten times as far as is usual is no hiss any more; hiss itself hardly ever goes beyond three. */
const SURELY_UNUSUAL = 10;
/** What is quieter is not heard, whatever it is quieter than. */
const UNHEARD = 10 ** (-90 / 20);
const SLOPE_RATE_HZ = 48_000;

/**
 * The step in level is how far the straight lines through the last and the first two frames miss each other in
 * the middle of the seam; the step in slope is how differently they rise. What the sound does all the time, such
 * as hiss, is no step. Of several channels the one that jumps farthest counts.
 */
export function seamSteps({ before, behind, rateHz }: Sides): SeamSteps {
  let [level, slope] = [0, 0];
  before.forEach((left, c) => {
    const right = behind[c]!;
    const around = rms(left, right, Math.round(LEVEL_SECONDS * rateHz));
    if (around === 0) return;
    const found = jumps(left, right, Math.round(USUAL_SECONDS * rateHz));
    if (found.level > UNHEARD) level = Math.max(level, found.level / around);
    const slopeNow = found.slope * (rateHz / SLOPE_RATE_HZ);
    if (slopeNow > UNHEARD) slope = Math.max(slope, slopeNow / around);
  });
  return { levelStepDb: decibels(level), slopeStepDb: decibels(slope) };
}

function decibels(ratio: number): number {
  return ratio > 0 ? Math.max(NO_STEP_DB, 20 * Math.log10(ratio)) : NO_STEP_DB;
}

/** As much of both jumps at the seam as is not usual: the share grows slowly at first. */
function jumps(left: Float32Array, right: Float32Array, reach: number) {
  const n = left.length;
  const seam = jumpsBetween(left[n - 2]!, left[n - 1]!, right[0]!, right[1]!);
  const sides = [usual(left, n - Math.min(n, reach), n), usual(right, 0, Math.min(n, reach))];
  const beyond = (kind: 'level' | 'slope') => {
    const times = seam[kind] / Math.max(sides[0]![kind], sides[1]![kind], Number.MIN_VALUE);
    const share = (times - 1) / (SURELY_UNUSUAL - 1);
    return seam[kind] * Math.max(0, Math.min(1, share)) ** 3;
  };
  return { level: beyond('level'), slope: beyond('slope') };
}

function jumpsBetween(a: number, b: number, c: number, d: number) {
  return { level: Math.abs(c - (d - c) / 2 - (b + (b - a) / 2)), slope: Math.abs(d - c - (b - a)) };
}

/** Root mean square of the same jumps between all neighbouring frames of a stretch. */
function usual(samples: Float32Array, from: number, to: number) {
  let [level, slope, count] = [0, 0, 0];
  for (let i = from; i + 3 < to; i++) {
    const found = jumpsBetween(samples[i]!, samples[i + 1]!, samples[i + 2]!, samples[i + 3]!);
    level += found.level ** 2;
    slope += found.slope ** 2;
    count++;
  }
  if (count === 0) return { level: 0, slope: 0 };
  return { level: Math.sqrt(level / count), slope: Math.sqrt(slope / count) };
}

function rms(left: Float32Array, right: Float32Array, reach: number): number {
  const most = Math.min(left.length, reach);
  let sum = 0;
  for (let i = 0; i < most; i++) sum += left[left.length - 1 - i]! ** 2 + right[i]! ** 2;
  return Math.sqrt(sum / (2 * most));
}
