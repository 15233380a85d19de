import type { PcmSource } from '../pcm/source';
import { resampled, resampledFrames } from './resample';

/** Factors are held to millionths, so that lengths follow from whole numbers. */
const PARTS = 1_000_000;

/** Length behind a change of speed. */
export function spedFrames(frames: number, factor: number): number {
  return resampledFrames(frames, Math.round(factor * PARTS), PARTS);
}

/** Faster (factor above 1) or slower, the pitch along with it, at the same rate. */
export function changeSpeed(source: PcmSource, factor: number): PcmSource {
  const faster = { ...source, rateHz: Math.round(factor * PARTS) };
  return { ...resampled(faster, PARTS), rateHz: source.rateHz };
}

/** States another rate for the same frames: the cure for a wrong label. */
export function relabel(source: PcmSource, rateHz: number): PcmSource {
  return { ...source, rateHz };
}
