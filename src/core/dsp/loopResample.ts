import type { Loop, Stretch } from '../marks';
import type { PcmSource, Piece } from '../pcm/source';
import { alongLine, type Line } from './interpolator';
import { intoLoop, lengthOf, loopAround, outOfLoop, turns } from './loopPlay';

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
      supply: (from) => loopAround(source, loop, from),
      ...{ startFrame: 0, endFrame: lengthOf(moved) },
    }),
    alongLine(channelCount, {
      line: lines.tail,
      supply: (from) => outOfLoop(source, loop, from),
      ...{ startFrame: endFrame, endFrame: frames },
    }),
  ];
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
