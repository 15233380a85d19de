import { wholeRange, type PcmSource } from '../pcm/source';

/** How far is looked, at most. */
const REACH_SECONDS = 2;
const FIRST_LOOK_FRAMES = 2_048;

/**
 * The nearest frame in front of which (`−1`) or behind which (`1`) the channels together cross zero,
 * not counting `frame` itself: a cut in front of it does not click. Null where there is none near.
 */
export async function zeroCrossing(
  source: PcmSource,
  frame: number,
  direction: -1 | 1,
): Promise<number | null> {
  const most = Math.round(REACH_SECONDS * source.rateHz);
  for (let reach = FIRST_LOOK_FRAMES; ; reach *= 8) {
    const from = Math.max(0, direction < 0 ? frame - reach : frame);
    const to = Math.min(source.frames, direction < 0 ? frame : frame + reach + 1);
    const found = crossings(await wholeRange(source, from, Math.max(from, to)));
    const at = direction < 0 ? found.at(-1) : found[0];
    if (at !== undefined) return from + at;
    const isAtEnd = direction < 0 ? from === 0 : to === source.frames;
    if (isAtEnd || reach >= most) return null;
  }
}

/** Of the crossings on both sides, and the place itself, the one that is next to it. */
export async function nearestCrossing(source: PcmSource, frame: number): Promise<number | null> {
  const [before, after] = [
    // The place itself counts here.
    await zeroCrossing(source, frame + 1, -1),
    await zeroCrossing(source, frame, 1),
  ];
  if (before === null || after === null) return before ?? after;
  return frame - before <= after - frame ? before : after;
}

/** Places in whole channels whose sum has another sign than in the frame before, or is zero behind sound. */
function crossings(channels: readonly Float32Array[]): number[] {
  const found: number[] = [];
  let before = 0;
  const frames = channels[0]?.length ?? 0;
  for (let i = 0; i < frames; i++) {
    let sum = 0;
    for (const channel of channels) sum += channel[i]!;
    if (i > 0 && before !== 0 && sum * before <= 0) found.push(i);
    before = sum;
  }
  return found;
}
