import { BLOCK_FRAMES, blockFrames, sliceBlock, type Block, type PcmStream } from '../pcm/pcm';
import { mapSamples } from './level';

/** Silence of `frames` frames in front of frame `at`. */
export function insertSilence(pcm: PcmStream, at: number, frames: number): PcmStream {
  async function* blocks(): AsyncGenerator<Block> {
    let place = 0;
    let isOpen = true;
    for await (const block of pcm.blocks) {
      const end = place + blockFrames(block);
      if (isOpen && at < end) {
        if (at > place) yield sliceBlock(block, 0, at - place);
        yield* silence(pcm.channelCount, frames);
        yield sliceBlock(block, at - place, blockFrames(block));
        isOpen = false;
      } else {
        yield block;
      }
      place = end;
    }
    if (isOpen) yield* silence(pcm.channelCount, frames);
  }
  return { ...pcm, frames: pcm.frames === null ? null : pcm.frames + frames, blocks: blocks() };
}

function* silence(channelCount: number, frames: number): Generator<Block> {
  for (let left = frames; left > 0; left -= BLOCK_FRAMES) {
    const length = Math.min(left, BLOCK_FRAMES);
    yield Array.from({ length: channelCount }, () => new Float32Array(length));
  }
}

/** Makes the span silent; everything else stays where it is. */
export function blank(pcm: PcmStream, startFrame: number, endFrame: number): PcmStream {
  return mapSamples(pcm, (x, _, at) => (at >= startFrame && at < endFrame ? 0 : x), pcm.gridBits);
}

/**
 * Takes the span out and closes the gap. Over the last `crossfadeFrames` frames before it the sound
 * fades linearly into what led up to its end, so that the seam does not click; the length is the
 * same with and without.
 */
export function cutOut(
  pcm: PcmStream,
  startFrame: number,
  endFrame: number,
  crossfadeFrames = 0,
): PcmStream {
  const overlap = Math.min(crossfadeFrames, startFrame, endFrame - startFrame);
  async function* blocks(): AsyncGenerator<Block> {
    const fading = held(pcm.channelCount, overlap);
    const rising = held(pcm.channelCount, overlap);
    let at = 0;
    let isClosed = overlap === 0;
    for await (const block of pcm.blocks) {
      const end = at + blockFrames(block);
      const part = (from: number, to: number) =>
        sliceBlock(block, Math.max(from, at) - at, Math.min(to, end) - at);
      const keep = (into: Float32Array[], from: number, to: number) => {
        if (from >= end || to <= at) return;
        part(from, to).forEach((channel, c) => into[c]!.set(channel, Math.max(from, at) - from));
      };
      keep(fading, startFrame - overlap, startFrame);
      keep(rising, endFrame - overlap, endFrame);
      if (at < startFrame - overlap) yield part(at, startFrame - overlap);
      if (!isClosed && end >= endFrame) {
        yield crossfaded(fading, rising);
        isClosed = true;
      }
      if (end > endFrame) yield part(endFrame, end);
      at = end;
    }
  }
  const frames = pcm.frames === null ? null : pcm.frames - (endFrame - startFrame);
  return { ...pcm, frames, gridBits: overlap > 0 ? null : pcm.gridBits, blocks: blocks() };
}

function held(channelCount: number, frames: number): Float32Array[] {
  return Array.from({ length: channelCount }, () => new Float32Array(frames));
}

function crossfaded(fading: Block, rising: Block): Block {
  return fading.map((channel, c) =>
    channel.map((x, i) => {
      const share = (i + 0.5) / channel.length;
      return x * (1 - share) + rising[c]![i]! * share;
    }),
  );
}
