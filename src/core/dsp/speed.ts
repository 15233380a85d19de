import type { PcmStream } from '../pcm/pcm';
import { resample, resampledFrames } from './resample';

/** Factors are held to millionths, so that lengths follow from whole numbers. */
const PARTS = 1_000_000;

/** Length behind a change of speed. */
export function spedFrames(frames: number, factor: number): number {
  return resampledFrames(frames, Math.round(factor * PARTS), PARTS);
}

/** Faster (factor above 1) or slower, the pitch along with it, at the same rate. */
export function changeSpeed(pcm: PcmStream, factor: number): PcmStream {
  const faster = { ...pcm, rateHz: Math.round(factor * PARTS) };
  return { ...resample(faster, PARTS), rateHz: pcm.rateHz };
}

/** States another rate for the same frames: the cure for a wrong label. */
export function relabel(pcm: PcmStream, rateHz: number): PcmStream {
  return { ...pcm, rateHz };
}
