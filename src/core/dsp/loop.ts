import type { Stretch } from '../marks';
import { blockFrames, sliceBlock, type Block } from '../pcm/pcm';
import { pieced, pieceOf, range, wholeRange, type PcmSource, type Piece } from '../pcm/source';

/** How a crossfade goes from one side to the other. */
export const crossfadeCurves = {
  'equal-power': { name: 'equal power' },
  linear: { name: 'linear' },
  correlation: { name: 'by correlation' },
} as const;

export type CrossfadeCurve = keyof typeof crossfadeCurves;

/** Gains of what fades and of what rises, at `t` from 0 to 1. */
type Gains = (t: number) => readonly [fading: number, rising: number];

const linear: Gains = (t) => [1 - t, t];
/** Exactly 0 and 1 at the end, where a cosine would leave a breath. */
const equalPower: Gains = (t) =>
  t === 1 ? [0, 1] : [Math.cos((Math.PI / 2) * t), Math.sin((Math.PI / 2) * t)];

/**
 * Straight gains, scaled so that two equally loud sides of this correlation keep their power: alike sides fade
 * linearly, unlike ones with equal power. Sides that work against each other are taken for unlike: nothing is
 * raised by more than 3 dB.
 */
function correlated(correlation: number): Gains {
  const r = Math.max(0, correlation);
  return (t) => {
    const scale = 1 / Math.sqrt((1 - t) ** 2 + t ** 2 + 2 * r * t * (1 - t));
    return [(1 - t) * scale, t * scale];
  };
}

/**
 * A loop whose last `frames` frames fade into what leads up to its start, so that its end goes on in its start: the
 * last one is the very frame in front of it. The length stays. `frames` is at most what lies in front of the start,
 * and at most the loop.
 */
export function crossfadedLoop(
  source: PcmSource,
  { startFrame, endFrame }: Stretch,
  frames: number,
  curve: CrossfadeCurve,
): PcmSource {
  const fading = { startFrame: endFrame - frames, endFrame };
  const rising = { startFrame: startFrame - frames, endFrame: startFrame };
  let known: Promise<Gains> | null = null;
  const gains = async (): Promise<Gains> => {
    if (curve === 'linear') return linear;
    if (curve === 'equal-power') return equalPower;
    return correlated(await correlationOf(source, fading, rising));
  };
  const seam: Piece = {
    frames,
    async *from(skip) {
      const of = await (known ??= gains());
      let at = skip;
      for await (const [a, b] of alongside(source, fading, rising, skip)) {
        const first = at;
        yield a.map((channel, c) =>
          channel.map((x, i) => {
            const [out, into] = of((first + i + 1) / frames);
            return x * out + b[c]![i]! * into;
          }),
        );
        at += blockFrames(a);
      }
    },
  };
  return put(source, [
    pieceOf(source, 0, fading.startFrame),
    seam,
    pieceOf(source, endFrame, source.frames),
  ]);
}

/**
 * Puts a second pass behind the loop, under whose start lies what rings behind the loop's end, times `gain`: the
 * first pass is dry, the second one is what every repeat has to be. `frames` of ringing are at most the loop.
 */
export function wrappedLoop(
  source: PcmSource,
  { startFrame, endFrame }: Stretch,
  frames: number,
  gain: number,
): PcmSource {
  const start = { startFrame, endFrame: startFrame + frames };
  const tail = { startFrame: endFrame, endFrame: endFrame + frames };
  const wrapped: Piece = {
    frames,
    async *from(skip) {
      for await (const [a, b] of alongside(source, start, tail, skip)) {
        yield a.map((channel, c) => channel.map((x, i) => x + b[c]![i]! * gain));
      }
    },
  };
  const pieces = [
    pieceOf(source, 0, endFrame),
    wrapped,
    pieceOf(source, start.endFrame, endFrame),
    pieceOf(source, endFrame, source.frames),
  ];
  // Sums of samples on a grid lie on it.
  return put(source, pieces, gain === 1 ? source.gridBits : null);
}

/** A stretch so many times, where it was once. */
export function repeated(
  source: PcmSource,
  { startFrame, endFrame }: Stretch,
  times: number,
): PcmSource {
  const again = Array.from({ length: times - 1 }, () => pieceOf(source, startFrame, endFrame));
  const pieces = [pieceOf(source, 0, endFrame), ...again, pieceOf(source, endFrame, source.frames)];
  return put(source, pieces, source.gridBits);
}

/** Frames that unrolling adds: the way back, without the two frames at which it turns round. */
export function wayBackFrames({ startFrame, endFrame }: Stretch): number {
  return endFrame - startFrame - 2;
}

/** What is played forward and backward by turns, once each way: then it runs forward. */
export function unrolled(source: PcmSource, stretch: Stretch): PcmSource {
  const { startFrame, endFrame } = stretch;
  const back: Piece = {
    frames: wayBackFrames(stretch),
    async *from(skip) {
      for (let end = endFrame - 1 - skip; end > startFrame + 1; end -= BACK_FRAMES) {
        const block = await wholeRange(source, Math.max(startFrame + 1, end - BACK_FRAMES), end);
        yield block.map((channel) => channel.reverse());
      }
    },
  };
  const pieces = [pieceOf(source, 0, endFrame), back, pieceOf(source, endFrame, source.frames)];
  return put(source, pieces, source.gridBits);
}

const BACK_FRAMES = 32_768;

function put(
  source: PcmSource,
  pieces: readonly Piece[],
  gridBits: number | null = null,
): PcmSource {
  const frames = pieces.reduce((sum, piece) => sum + piece.frames, 0);
  return { ...source, frames, gridBits, from: (startFrame) => pieced(pieces, startFrame) };
}

/**
 * How alike two equally long stretches are, −1 … 1, all channels together; 0 where one of them is silent. They
 * are as loud as they are: only their shapes count.
 */
async function correlationOf(source: PcmSource, one: Stretch, other: Stretch): Promise<number> {
  let [both, first, second] = [0, 0, 0];
  for await (const [a, b] of alongside(source, one, other, 0)) {
    a.forEach((channel, c) => {
      for (let i = 0; i < channel.length; i++) {
        const [x, y] = [channel[i]!, b[c]![i]!];
        both += x * y;
        first += x * x;
        second += y * y;
      }
    });
  }
  return first > 0 && second > 0 ? both / Math.sqrt(first * second) : 0;
}

/** Two equally long stretches of a source side by side, in blocks of equal length. */
async function* alongside(
  source: PcmSource,
  one: Stretch,
  other: Stretch,
  skip: number,
): AsyncGenerator<[Block, Block]> {
  const second = range(source, other.startFrame + skip, other.endFrame);
  let held: Block = [];
  try {
    for await (let block of range(source, one.startFrame + skip, one.endFrame)) {
      while (blockFrames(block) > 0) {
        if (blockFrames(held) === 0) {
          const { value, done } = await second.next();
          if (done) return;
          held = value;
        }
        const take = Math.min(blockFrames(block), blockFrames(held));
        yield [sliceBlock(block, 0, take), sliceBlock(held, 0, take)];
        block = sliceBlock(block, take, blockFrames(block));
        held = sliceBlock(held, take, blockFrames(held));
      }
    }
  } finally {
    await second.return(undefined);
  }
}
