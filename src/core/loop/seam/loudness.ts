import { channelWeights, kWeighting, toLufs, type Section } from '../../measure/loudness';
import { joinedSides, type Sides } from './sides';

/** The stretches on both sides that are held against each other, in seconds. */
const WINDOWS = [0.05, 0.1, 0.2, 0.5];
/** What is quieter than that is silence: two silences do not differ. */
const SILENCE_POWER = 1e-8;

/**
 * By how many LU it is louder behind a seam than in front of it: the mean over 50, 100, 200 and 500 ms on both
 * sides, K-weighted (ITU-R BS.1770-5) and ungated.
 */
export function loudnessDifference(sides: Sides): number {
  const power = weightedPower(sides);
  const half = power.length / 2;
  const lufs = (from: number, to: number) => {
    let sum = 0;
    for (let i = from; i < to; i++) sum += power[i]!;
    return toLufs(sum / (to - from) + SILENCE_POWER);
  };
  const differences = WINDOWS.map((seconds) => {
    const frames = Math.max(1, Math.min(half, Math.round(seconds * sides.rateHz)));
    return lufs(half, half + frames) - lufs(half - frames, half);
  });
  return differences.reduce((sum, one) => sum + one, 0) / differences.length;
}

/** Weighted sum of the squares of all channels, frame by frame, through the seam. */
export function weightedPower(sides: Sides): Float64Array {
  const joined = joinedSides(sides);
  const sections = kWeighting(sides.rateHz);
  const weights = channelWeights(joined.length, sides.speakerMask);
  const power = new Float64Array(joined[0]?.length ?? 0);
  joined.forEach((channel, c) => {
    const weight = weights[c]!;
    if (weight === 0) return;
    let samples: Float64Array = Float64Array.from(channel);
    for (const section of sections) samples = filtered(samples, section);
    for (let i = 0; i < power.length; i++) power[i]! += weight * samples[i]! ** 2;
  });
  return power;
}

function filtered(samples: Float64Array, { b0, b1, b2, a1, a2 }: Section): Float64Array {
  const out = new Float64Array(samples.length);
  let [z1, z2] = [0, 0];
  for (let i = 0; i < samples.length; i++) {
    const x = samples[i]!;
    const y = b0 * x + z1;
    z1 = b1 * x - a1 * y + z2;
    z2 = b2 * x - a2 * y;
    out[i] = y;
  }
  return out;
}
