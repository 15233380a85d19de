import type { Loop, Stretch } from '../marks';
import { blockFrames, sliceBlock, type Block } from '../pcm/pcm';
import {
  pieceOf,
  range,
  silentBlocks,
  sourceFromChannels,
  wholeRange,
  type PcmSource,
} from '../pcm/source';
import { inFront } from './interpolator';
import { unrolled, wayBackFrames } from './loop';

/** A sound with a loop as it plays, for whatever looks at the surroundings of each frame. */

/** Loops of up to so many frames are held while they are read around. */
const HELD_FRAMES = 2 ** 18;

/** Whether it has frames between those at which it turns round. */
export function turns(loop: Loop): boolean {
  return Boolean(loop.isBackAndForth) && lengthOf(loop) > 2;
}

export function lengthOf({ startFrame, endFrame }: Stretch): number {
  return endFrame - startFrame;
}

/** As it plays for the first time: what is in front of the loop, then the loop again and again. */
export async function* intoLoop(
  source: PcmSource,
  loop: Loop,
  from: number,
): AsyncGenerator<Block> {
  yield* silentBlocks(source.channelCount, -from);
  const { startFrame, endFrame } = loop;
  yield* range(source, Math.max(0, from), Math.max(startFrame, from));
  if (from < endFrame) yield* loopAround(source, loop, Math.max(0, from - startFrame));
}

/** The loop again and again, from a frame counted from its start; where it turns round, both ways. */
export async function* loopAround(
  source: PcmSource,
  loop: Loop,
  from: number,
): AsyncGenerator<Block> {
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
export async function* outOfLoop(
  source: PcmSource,
  loop: Loop,
  from: number,
): AsyncGenerator<Block> {
  const { startFrame, endFrame } = loop;
  if (turns(loop)) return yield* inFront(source, from);
  let left = endFrame - from;
  if (left > 0) {
    for await (const block of loopAround(source, loop, from - startFrame)) {
      yield sliceBlock(block, 0, Math.min(left, blockFrames(block)));
      left -= blockFrames(block);
      if (left <= 0) break;
    }
  }
  yield* source.from(Math.max(endFrame, from));
}
