import type { Stretch } from '../marks';
import { wholeRange, type PcmSource } from '../pcm/source';
import { BUCKET_FRAMES } from './pyramid';

export interface SoundingOptions {
  /** Amplitude (0 … 1) that has to be gone beyond. */
  threshold: number;
  /** Quiet that is shorter than this does not part two stretches. */
  leastSilenceFrames: number;
}

/**
 * Finds where a sound is louder than a threshold, exact to the frame. `bucketPeaks` are the loudest
 * samples of every `BUCKET_FRAMES` frames: only the edges are looked at in the sound itself.
 */
export async function soundingStretches(
  source: PcmSource,
  bucketPeaks: Float32Array,
  { threshold, leastSilenceFrames }: SoundingOptions,
): Promise<Stretch[]> {
  const found: Stretch[] = [];
  for (const { first, last } of loudRuns(bucketPeaks, threshold, leastSilenceFrames)) {
    const startFrame = await firstLoud(source, first * BUCKET_FRAMES, threshold);
    const endFrame = await lastLoud(source, last * BUCKET_FRAMES, threshold);
    const before = found.at(-1);
    if (before && startFrame - before.endFrame < leastSilenceFrames) before.endFrame = endFrame;
    else found.push({ startFrame, endFrame });
  }
  return found;
}

/** Runs of loud buckets; what is surely too short a silence parts none. */
function loudRuns(peaks: Float32Array, threshold: number, leastSilenceFrames: number) {
  const runs: { first: number; last: number }[] = [];
  peaks.forEach((peak, i) => {
    if (peak <= threshold) return;
    const run = runs.at(-1);
    // Silence may reach to the far ends of both loud buckets.
    if (run && (i - run.last + 1) * BUCKET_FRAMES < leastSilenceFrames) run.last = i;
    else if (run && i === run.last + 1) run.last = i;
    else runs.push({ first: i, last: i });
  });
  return runs;
}

async function bucketOf(source: PcmSource, from: number): Promise<Float32Array[]> {
  return wholeRange(source, from, Math.min(source.frames, from + BUCKET_FRAMES));
}

const isLoud = (threshold: number) => (x: number) => x > threshold || x < -threshold;

async function firstLoud(source: PcmSource, from: number, threshold: number): Promise<number> {
  const places = (await bucketOf(source, from))
    .map((channel) => channel.findIndex(isLoud(threshold)))
    .filter((place) => place >= 0);
  return from + Math.min(BUCKET_FRAMES, ...places);
}

async function lastLoud(source: PcmSource, from: number, threshold: number): Promise<number> {
  const places = (await bucketOf(source, from)).map((channel) =>
    channel.findLastIndex(isLoud(threshold)),
  );
  return from + Math.max(...places) + 1;
}

/** Head and tail that only have silence taken off, with a little air left. Null when nothing sounds. */
export function onlyWhatSounds(
  stretches: readonly Stretch[],
  airFrames: number,
  frames: number,
): Stretch | null {
  const [first, last] = [stretches[0], stretches.at(-1)];
  if (!first || !last) return null;
  return {
    startFrame: Math.max(0, first.startFrame - airFrames),
    endFrame: Math.min(frames, last.endFrame + airFrames),
  };
}
