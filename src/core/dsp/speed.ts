import type { PcmSource } from '../pcm/source';
import { resampled, resampledFrames, resampledPlace } from './resample';

/** Factors are held to millionths, so that lengths follow from whole numbers. */
const PARTS = 1_000_000;

/** Length behind a change of speed. */
export function spedFrames(frames: number, factor: number): number {
  return resampledFrames(frames, partsOf(factor), PARTS);
}

/** Where a frame lands. */
export function spedPlace(frame: number, factor: number): number {
  return resampledPlace(frame, partsOf(factor), PARTS);
}

/** Where a frame of the result came from. */
export function sourcePlace(frame: number, factor: number): number {
  return resampledPlace(frame, PARTS, partsOf(factor));
}

function partsOf(factor: number): number {
  return Math.round(factor * PARTS);
}

/** Faster (factor above 1) or slower, the pitch along with it, at the same rate. */
export function changeSpeed(source: PcmSource, factor: number): PcmSource {
  const faster = { ...source, rateHz: partsOf(factor) };
  return { ...resampled(faster, PARTS), rateHz: source.rateHz };
}

/** States another rate for the same frames: the cure for a wrong label. */
export function relabel(source: PcmSource, rateHz: number): PcmSource {
  return { ...source, rateHz };
}
