import type { Loop, Stretch } from '../marks';
import { blockFrames, sliceBlock, type Block } from '../pcm/pcm';
import {
  pieceOf,
  range,
  silentBlocks,
  sourceFromChannels,
  wholeRange,
  type PcmSource,
  type Piece,
} from '../pcm/source';
import { alongLine, inFront, type Line } from './interpolator';
import { unrolled, wayBackFrames } from './loop';

/** Loops of up to so many frames are held while they are read around. */
const HELD_FRAMES = 2 ** 18;

/** What a rate change comes to. */
interface Change {
  /** Where the loop comes to lie. */
  moved: Stretch;
  /** Of the result. */
  frames: number;
  /** Of a sound without a loop. */
  line: Line;
}

/**
 * A sound with a loop at another rate, in three pieces. What lies in front of the loop runs into its first pass. The
 * loop is wrapped around itself: in front of its start lies its end. Its length becomes whole, so that its seam
 * stays what it was: it is read that little bit slower or faster. What lies behind it follows its end.
 */
export function loopResampled(
  source: PcmSource,
  loop: Loop,
  { moved, frames, line }: Change,
): Piece[] {
  const { channelCount } = source;
  const isTurning = turns(loop) && lengthOf(moved) > 1;
  const lines = isTurning ? turningLines(loop, moved, line) : passingLines(loop, moved, line);
  const { startFrame, endFrame } = moved;
  return [
    alongLine(channelCount, {
      line: lines.head,
      supply: (from) => intoLoop(source, loop, from),
      ...{ startFrame: 0, endFrame: startFrame },
    }),
    alongLine(channelCount, {
      line: lines.loop,
      supply: (from) => aroundLoop(source, loop, from),
      ...{ startFrame: 0, endFrame: lengthOf(moved) },
    }),
    alongLine(channelCount, {
      line: lines.tail,
      supply: (from) => outOfLoop(source, loop, from),
      ...{ startFrame: endFrame, endFrame: frames },
    }),
  ];
}

/** Whether it has frames between those at which it turns round. */
function turns(loop: Loop): boolean {
  return Boolean(loop.isBackAndForth) && lengthOf(loop) > 2;
}

/** Lines of a loop whose passes run forward: `loop` counts from its start, the others from that of the sound. */
function passingLines(loop: Stretch, moved: Stretch, { up, down }: Line) {
  const [length, movedLength] = [lengthOf(loop), lengthOf(moved)];
  // In up-ths of a frame behind the loop's start, where its first frame comes to lie.
  const offset = big(moved.startFrame) * big(down) - big(loop.startFrame) * big(up);
  const isWhole = big(length) * big(up) === big(movedLength) * big(down);
  return {
    head: { first: 0n, up, down },
    loop: isWhole
      ? { first: offset, up, down }
      : reduced(offset * big(movedLength), big(movedLength) * big(up), big(length) * big(up)),
    // One pass further than it would be without the loop's new length.
    tail: { first: big(length) * big(up) - big(movedLength) * big(down), up, down },
  };
}

/** Lines of a loop that turns round at its first and its last frame: these stay where they are. */
function turningLines(loop: Stretch, moved: Stretch, { up, down }: Line) {
  const at = (frame: number, movedFrame: number) =>
    big(frame) * big(up) - big(movedFrame) * big(down);
  return {
    head: { first: at(loop.startFrame, moved.startFrame), up, down },
    loop: reduced(0n, big(lengthOf(moved) - 1), big(lengthOf(loop) - 1)),
    tail: { first: at(loop.endFrame - 1, moved.endFrame - 1), up, down },
  };
}

const big = BigInt;

/** Whole numbers that a double can hold: in lowest terms, else as near as they come. */
function reduced(first: bigint, up: bigint, down: bigint): Line {
  const divisor = common(common(up, down), first < 0n ? -first : first);
  const [a, b, c] = [first / divisor, up / divisor, down / divisor];
  const most = 2n ** 50n;
  if (b <= most && c <= most) return { first: a, up: Number(b), down: Number(c) };
  const fine = 2n ** 44n;
  return { first: (a * fine) / b, up: Number(fine), down: Number((c * fine) / b) };
}

function common(a: bigint, b: bigint): bigint {
  while (b) [a, b] = [b, a % b];
  return a;
}

function lengthOf({ startFrame, endFrame }: Stretch): number {
  return endFrame - startFrame;
}

/** As it plays for the first time: what is in front of the loop, then the loop again and again. */
async function* intoLoop(source: PcmSource, loop: Loop, from: number): AsyncGenerator<Block> {
  yield* silentBlocks(source.channelCount, -from);
  const { startFrame, endFrame } = loop;
  yield* range(source, Math.max(0, from), Math.max(startFrame, from));
  if (from < endFrame) yield* aroundLoop(source, loop, Math.max(0, from - startFrame));
}

/** The loop again and again, from a frame counted from its start; where it turns round, both ways. */
async function* aroundLoop(source: PcmSource, loop: Loop, from: number): AsyncGenerator<Block> {
  const turned = turns(loop) ? unrolled(source, loop) : source;
  const length = lengthOf(loop) + (turns(loop) ? wayBackFrames(loop) : 0);
  const { startFrame } = loop;
  const endFrame = startFrame + length;
  let once = pieceOf(turned, startFrame, endFrame);
  let skip = ((from % length) + length) % length;
  if (length <= HELD_FRAMES) {
    const whole = await wholeRange(turned, startFrame, endFrame);
    // Very short ones are put together, so that blocks are worth their while.
    const times = Math.ceil(HELD_FRAMES / 8 / length);
    const long = whole.map((channel) => repeatedChannel(channel, times));
    once = pieceOf(sourceFromChannels(long, source.rateHz), 0, length * times);
  }
  for (;;) {
    yield* once.from(skip);
    skip = 0;
  }
}

function repeatedChannel(channel: Float32Array, times: number): Float32Array {
  const long = new Float32Array(channel.length * times);
  for (let i = 0; i < times; i++) long.set(channel, i * channel.length);
  return long;
}

/** As it plays for the last time: the loop before its end, then what lies behind it. */
async function* outOfLoop(source: PcmSource, loop: Loop, from: number): AsyncGenerator<Block> {
  const { startFrame, endFrame } = loop;
  if (turns(loop)) return yield* inFront(source, from);
  let left = endFrame - from;
  if (left > 0) {
    for await (const block of aroundLoop(source, loop, from - startFrame)) {
      yield sliceBlock(block, 0, Math.min(left, blockFrames(block)));
      left -= blockFrames(block);
      if (left <= 0) break;
    }
  }
  yield* source.from(Math.max(endFrame, from));
}
