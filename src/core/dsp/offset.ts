import type { PcmStream } from '../pcm/pcm';
import type { PcmSource } from '../pcm/source';
import { changed } from './level';

/**
 * Takes out what lies off the middle: the running mean over half a second, which is a high-pass of some two
 * hertz without delay and without ringing. Digital silence is no part of any mean and stays as it is, and no
 * sound begins or ends with a larger step than it had.
 */

/** A stretch of one channel between digital silences, with what is taken away from it. */
interface OffsetStretch {
  startFrame: number;
  endFrame: number;
  /** Values at `startFrame`, one hop later, and so on, the last at the last frame; straight lines in between. */
  values: Float32Array;
}

export interface Offsets {
  hopFrames: number;
  channels: OffsetStretch[][];
}

const HOP_SECONDS = 0.005;
/** Half the width of the window under which the mean is taken (Hann). */
const WINDOW_HOPS = 50;
/** Over which the mean comes in behind an edge, and goes in front of one. */
const EASE_SECONDS = 0.02;
/** Zeros in a row that are silence and not a wave that passes through the middle. */
const SILENCE_SECONDS = 0.01;
/** The mean of something shorter is its wave as much as an offset. */
export const LEAST_OFFSET_SECONDS = 0.1;

/** Reads the whole sound once. */
export async function measureOffsets(pcm: PcmStream): Promise<Offsets> {
  const frames = (seconds: number) => Math.max(1, Math.round(seconds * pcm.rateHz));
  const hopFrames = frames(HOP_SECONDS);
  const silentFrames = frames(SILENCE_SECONDS);
  const lengths = {
    hopFrames,
    easeFrames: frames(EASE_SECONDS),
    longFrames: frames(LEAST_OFFSET_SECONDS),
  };
  const meters = Array.from(
    { length: pcm.channelCount },
    () => new StretchMeter(hopFrames, silentFrames),
  );
  for await (const block of pcm.blocks) block.forEach((channel, c) => meters[c]!.push(channel));
  return {
    hopFrames,
    channels: meters.map((meter) => meter.finish().map((sums) => stretchOf(sums, lengths))),
  };
}

/** Lengths at the sound's rate. */
interface Lengths {
  hopFrames: number;
  easeFrames: number;
  longFrames: number;
}

/** What is known of a stretch once it has been read. */
interface StretchSums {
  startFrame: number;
  endFrame: number;
  first: number;
  last: number;
  /** Sum of the samples of each hop. */
  hops: number[];
}

/** Cuts one channel into stretches and sums them up. */
class StretchMeter {
  private readonly done: StretchSums[] = [];
  private open: StretchSums | null = null;
  private frame = 0;

  constructor(
    private readonly hopFrames: number,
    private readonly silentFrames: number,
  ) {}

  push(samples: Float32Array): void {
    for (let i = 0; i < samples.length; i++, this.frame++) {
      const x = samples[i]!;
      if (x !== 0) this.add(x);
      else if (this.open && this.frame + 1 - this.open.endFrame >= this.silentFrames) this.close();
    }
  }

  private add(x: number): void {
    const { frame } = this;
    const open = (this.open ??= {
      startFrame: frame,
      endFrame: frame,
      first: x,
      last: x,
      hops: [],
    });
    const hop = Math.floor((frame - open.startFrame) / this.hopFrames);
    while (open.hops.length <= hop) open.hops.push(0);
    open.hops[hop]! += x;
    open.endFrame = frame + 1;
    open.last = x;
  }

  private close(): void {
    if (this.open) this.done.push(this.open);
    this.open = null;
  }

  finish(): StretchSums[] {
    this.close();
    return this.done;
  }
}

/** Weights of the hops around a place, by how many hops away its middle is. */
function weight(hopsAway: number): number {
  return Math.cos((Math.PI / 2) * (hopsAway / WINDOW_HOPS)) ** 2;
}

function stretchOf(
  sums: StretchSums,
  { hopFrames, easeFrames, longFrames }: Lengths,
): OffsetStretch {
  const { startFrame, endFrame, first, last, hops } = sums;
  const frames = endFrame - startFrame;
  const lastFrame = frames - 1;
  const ease = Math.max(1, Math.min(easeFrames, frames / 2));
  const count = hops.length;
  const values = new Float32Array(count + 1);
  const framesIn = (hop: number) => Math.min(hopFrames, frames - hop * hopFrames);
  const means = values.map((_, at) => {
    let sum = 0;
    let whole = 0;
    const from = Math.max(0, at - WINDOW_HOPS);
    for (let hop = from; hop < Math.min(count, at + WINDOW_HOPS); hop++) {
      const w = weight(hop + 0.5 - at);
      sum += w * hops[hop]!;
      whole += w * framesIn(hop);
    }
    return sum / whole;
  });
  const atStart = within(means[0]!, first);
  const atEnd = within(means[count]!, last);
  const shares = values.map((_, at) => {
    const frame = Math.min(lastFrame, at * hopFrames);
    return Math.min(eased(frame / ease), eased((lastFrame - frame) / ease));
  });
  for (let at = 0; at <= count; at++) {
    const edge = at * hopFrames < frames / 2 ? atStart : atEnd;
    values[at] = edge + (means[at]! - edge) * shares[at]!;
  }
  // What easing left behind is spread over the whole, so that nothing remains; the edges stay.
  if (frames >= longFrames) {
    const left = sumOf(hops) - total(values, hopFrames, lastFrame);
    const more = left / total(shares, hopFrames, lastFrame);
    for (let at = 0; at <= count; at++) values[at]! += more * shares[at]!;
  }
  return { startFrame, endFrame, values };
}

const sumOf = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0);

/** Sum over all frames of straight lines between values that are a hop apart, the last one at `lastFrame`. */
function total(values: Float32Array, hopFrames: number, lastFrame: number): number {
  let sum = values.at(-1) ?? 0;
  for (let hop = 0; hop + 1 < values.length; hop++) {
    const [from, to] = [values[hop]!, values[hop + 1]!];
    const length = Math.min(hopFrames, lastFrame - hop * hopFrames);
    sum += length * from + ((to - from) * (length - 1)) / 2;
  }
  return sum;
}

/** 0 … 1 without a corner. */
function eased(share: number): number {
  return share >= 1 ? 1 : Math.sin((Math.PI / 2) * share) ** 2;
}

/** The mean, no further from 0 than the sample at the edge and on its side: the step there never grows. */
function within(mean: number, edge: number): number {
  if (mean * edge <= 0) return 0;
  return Math.sign(edge) * Math.min(Math.abs(mean), Math.abs(edge));
}

/** The sound without what `measureOffsets` found. */
export function removeOffsets(source: PcmSource, { hopFrames, channels }: Offsets): PcmSource {
  const isCentred = channels.every((stretches) =>
    stretches.every(({ values }) => values.every((value) => value === 0)),
  );
  if (isCentred) return source;
  return changed(source, { start: 0, end: Infinity }, (samples, channel, firstFrame) => {
    const end = firstFrame + samples.length;
    const stretches = channels[channel] ?? [];
    for (let i = firstEndingBehind(stretches, firstFrame); i < stretches.length; i++) {
      if (stretches[i]!.startFrame >= end) break;
      take(samples, firstFrame, stretches[i]!, hopFrames);
    }
  });
}

/** Index of the first stretch that ends behind `frame`. */
function firstEndingBehind(stretches: readonly OffsetStretch[], frame: number): number {
  let [low, high] = [0, stretches.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (stretches[middle]!.endFrame <= frame) low = middle + 1;
    else high = middle;
  }
  return low;
}

function take(
  samples: Float32Array,
  firstFrame: number,
  { startFrame, endFrame, values }: OffsetStretch,
  hopFrames: number,
): void {
  const from = Math.max(startFrame, firstFrame);
  const to = Math.min(endFrame, firstFrame + samples.length);
  const lastFrame = endFrame - startFrame - 1;
  for (let frame = from; frame < to; frame++) {
    const hop = Math.floor((frame - startFrame) / hopFrames);
    const begin = hop * hopFrames;
    const length = Math.max(1, Math.min(hopFrames, lastFrame - begin));
    const share = (frame - startFrame - begin) / length;
    samples[frame - firstFrame]! -= values[hop]! * (1 - share) + values[hop + 1]! * share;
  }
}
