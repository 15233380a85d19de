import { BijouError } from '../errors';
import { blockFrames, sliceBlock, type Block, type PcmStream } from '../pcm/pcm';

/**
 * Keeps the frames from `startFrame` up to, not including, `endFrame` (null: to the end).
 * @throws bad-span when the stream turns out to end before the span begins or ends.
 */
export function trim(pcm: PcmStream, startFrame: number, endFrame: number | null): PcmStream {
  async function* blocks(): AsyncGenerator<Block> {
    let at = 0;
    let kept = 0;
    for await (const block of pcm.blocks) {
      const frames = blockFrames(block);
      const from = Math.max(0, startFrame - at);
      const to = Math.min(frames, (endFrame ?? Infinity) - at);
      at += frames;
      if (to > from) {
        kept += to - from;
        yield sliceBlock(block, from, to);
      }
      if (endFrame !== null && at >= endFrame) return;
    }
    if (kept === 0 || (endFrame !== null && at < endFrame)) throw outside(at);
  }
  const end = endFrame ?? pcm.frames;
  return {
    ...pcm,
    frames: end === null ? null : Math.max(0, end - startFrame),
    blocks: blocks(),
  };
}

function outside(frames: number): BijouError {
  return new BijouError(
    'bad-span',
    `The span lies outside the sound, which has ${frames} frames.`,
    'Choose a start and an end inside the sound.',
  );
}
