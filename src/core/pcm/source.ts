import type { Scratch } from '../bytes/source';
import { BijouError } from '../errors';
import type { Loop } from '../marks';
import { BLOCK_FRAMES, blockFrames, sliceBlock, type Block, type PcmStream } from './pcm';

/** A sound of known length that can be read from any frame on, as often as one likes. */
export interface PcmSource {
  readonly rateHz: number;
  readonly channelCount: number;
  readonly frames: number;
  /** As in `PcmStream`. */
  readonly gridBits: number | null;
  /** As in `PcmStream`. */
  readonly speakerMask?: number | undefined;
  /** What repeats of it, for steps that look around each frame: the loop's ends meet each other. */
  readonly loop?: Loop | null | undefined;
  /** Blocks from `startFrame` (0 … frames) to the end. */
  from(startFrame: number): AsyncIterable<Block>;
}

/** One reading of a source. */
export function streamOf(source: PcmSource, startFrame = 0): PcmStream {
  const { from, ...shape } = source;
  return { ...shape, frames: source.frames - startFrame, blocks: from(startFrame) };
}

/** A source of whole channels held in memory. */
export function sourceFromChannels(
  channels: readonly Float32Array[],
  rateHz: number,
  options: { blockFrames?: number; gridBits?: number } = {},
): PcmSource {
  const frames = channels[0]?.length ?? 0;
  const step = options.blockFrames ?? BLOCK_FRAMES;
  return {
    rateHz,
    channelCount: channels.length,
    frames,
    gridBits: options.gridBits ?? null,
    async *from(startFrame) {
      for (let at = startFrame; at < frames; at += step) yield sliceBlock(channels, at, at + step);
    },
  };
}

/**
 * The frames from `startFrame` up to, not including, `endFrame`.
 * @throws bad-span when the source turns out to end before them.
 */
export async function* range(
  source: PcmSource,
  startFrame: number,
  endFrame: number,
): AsyncGenerator<Block> {
  let left = endFrame - startFrame;
  if (left <= 0) return;
  for await (const block of source.from(startFrame)) {
    const take = Math.min(left, blockFrames(block));
    yield take === blockFrames(block) ? block : sliceBlock(block, 0, take);
    left -= take;
    if (left === 0) return;
  }
  throw new BijouError(
    'bad-span',
    `The span lies outside the sound: ${left} of its frames are not there.`,
    'Choose a start and an end inside the sound.',
  );
}

/** A range in one piece. For stretches that are known to be short. */
export async function wholeRange(
  source: PcmSource,
  startFrame: number,
  endFrame: number,
): Promise<Float32Array[]> {
  const whole = emptyChannels(source.channelCount, Math.max(0, endFrame - startFrame));
  let at = 0;
  for await (const block of range(source, startFrame, endFrame)) {
    block.forEach((channel, c) => whole[c]!.set(channel, at));
    at += blockFrames(block);
  }
  return whole;
}

/** Silence in blocks of bearable size. */
export function* silentBlocks(channelCount: number, frames: number): Generator<Block> {
  for (let left = frames; left > 0; left -= BLOCK_FRAMES) {
    yield emptyChannels(channelCount, Math.min(left, BLOCK_FRAMES));
  }
}

export function emptyChannels(channelCount: number, frames: number): Float32Array[] {
  return Array.from({ length: channelCount }, () => new Float32Array(frames));
}

/** A stretch of a sound that is put together of several: its length, and its frames from any on. */
export interface Piece {
  frames: number;
  from(startFrame: number): AsyncIterable<Block> | Iterable<Block>;
}

/** Pieces one behind the other, from any frame on. */
export async function* pieced(pieces: readonly Piece[], startFrame: number): AsyncGenerator<Block> {
  let passed = 0;
  for (const piece of pieces) {
    const skip = Math.max(0, startFrame - passed);
    passed += piece.frames;
    if (skip < piece.frames) yield* piece.from(skip);
  }
}

/** Part of a source as a piece. */
export function pieceOf(source: PcmSource, startFrame: number, endFrame: number): Piece {
  return {
    frames: Math.max(0, endFrame - startFrame),
    from: (skip) => range(source, startFrame + skip, endFrame),
  };
}

export function silentPiece(channelCount: number, frames: number): Piece {
  return { frames, from: (skip) => silentBlocks(channelCount, frames - skip) };
}

/** A few frames that are worked out when they are asked for, in one piece. */
export function madePiece(frames: number, make: () => Promise<Block>): Piece {
  return {
    frames,
    async *from(skip) {
      yield sliceBlock(await make(), skip, frames);
    },
  };
}

/**
 * The same sound, put aside as samples: for sources that have to be decoded from their beginning
 * whenever they are gone into.
 */
export async function putAside(source: PcmSource, scratch: Scratch): Promise<PcmSource> {
  const { channelCount } = source;
  const frameBytes = channelCount * 4;
  for await (const block of source.from(0)) {
    const frames = blockFrames(block);
    const woven = new Float32Array(frames * channelCount);
    block.forEach((channel, c) => {
      for (let i = 0; i < frames; i++) woven[i * channelCount + c] = channel[i]!;
    });
    await scratch.write(new Uint8Array(woven.buffer));
  }
  return {
    ...source,
    async *from(startFrame) {
      const end = scratch.size;
      for (let at = startFrame * frameBytes; at < end; at += BLOCK_FRAMES * frameBytes) {
        const bytes = await scratch.read(at, Math.min(end - at, BLOCK_FRAMES * frameBytes));
        const woven = new Float32Array(bytes.slice().buffer);
        yield Array.from({ length: channelCount }, (_, c) => {
          const channel = new Float32Array(woven.length / channelCount);
          for (let i = 0; i < channel.length; i++) channel[i] = woven[i * channelCount + c]!;
          return channel;
        });
      }
    },
  };
}
