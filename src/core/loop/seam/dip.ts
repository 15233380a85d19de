import { weightedPower } from './loudness';
import type { Sides } from './sides';

/** The level is looked at over so much at a time, … */
const WINDOW_SECONDS = 0.02;
/** … in steps of so much. */
const HOP_SECONDS = 0.005;
/** What a crossfade makes of the end lies in so much in front of the seam, and a little behind it. */
const BEFORE_SECONDS = 0.35;
const BEHIND_SECONDS = 0.05;
/** What is quieter than that is silence. */
const SILENCE_POWER = 1e-10;

/**
 * How far the level falls at a seam below what it is around it, in dB, beyond how far it falls elsewhere: sides that
 * work against each other cancel where one fades into the other. 0 where nothing is missing.
 */
export function dipDb(sides: Sides): number {
  const power = weightedPower(sides);
  const seam = power.length / 2;
  const { rateHz } = sides;
  const window = Math.max(1, Math.round(WINDOW_SECONDS * rateHz));
  const hop = Math.max(1, Math.round(HOP_SECONDS * rateHz));
  const [from, to] = [seam - BEFORE_SECONDS * rateHz, seam + BEHIND_SECONDS * rateHz];
  const near: number[] = [];
  const far: number[] = [];
  for (let at = 0; at + window <= power.length; at += hop) {
    let sum = 0;
    for (let i = at; i < at + window; i++) sum += power[i]!;
    const isNear = at + window > from && at < to;
    (isNear ? near : far).push(10 * Math.log10(sum / window + SILENCE_POWER));
  }
  if (near.length === 0 || far.length === 0) return 0;
  const usual = median(far);
  const missing = usual - Math.min(...near);
  // A rhythm falls silent all the time.
  return Math.max(0, missing - Math.max(0, usual - Math.min(...far)));
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[sorted.length >> 1]!;
}
