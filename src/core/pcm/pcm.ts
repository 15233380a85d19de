/** The most frames a block may have: enough to be fast, small enough that an hour costs no memory. */
export const BLOCK_FRAMES = 65_536;

/** One planar stretch of sound: an equally long array per channel, full scale ±1. */
export type Block = readonly Float32Array[];

/** Sound on its way through the pipeline. `blocks` may be read once. */
export interface PcmStream {
  readonly rateHz: number;
  readonly channelCount: number;
  /** Length where it is known beforehand. */
  readonly frames: number | null;
  /**
   * Depth in bits of the integer grid that every sample lies on, where that is certain.
   * It lets a writer of that depth or more leave dither off and stay bit-identical.
   */
  readonly gridBits: number | null;
  /** Which speakers the channels are for, as WAV's mask, where somebody stated it (`speakers.ts`). */
  readonly speakerMask?: number | undefined;
  /** What is heard in front of its first frame and behind its last, where it plays around. */
  readonly around?: Around | undefined;
  readonly blocks: AsyncIterable<Block>;
}

/** Short stretches that touch a sound's ends; empty where silence does. */
export interface Around {
  before: Block;
  behind: Block;
}

export function blockFrames(block: Block): number {
  return block[0]?.length ?? 0;
}

/** A view of part of a block; shares memory. */
export function sliceBlock(block: Block, start: number, end: number): Block {
  return block.map((channel) => channel.subarray(start, end));
}

/** Cuts what a decoder or filter gave in one piece into blocks of bearable size. */
export function* inBlocks(block: Block): Generator<Block> {
  const frames = blockFrames(block);
  for (let at = 0; at < frames; at += BLOCK_FRAMES) {
    yield sliceBlock(block, at, Math.min(frames, at + BLOCK_FRAMES));
  }
}

/** Makes a stream of whole channels held in memory. */
export function pcmFromChannels(
  channels: readonly Float32Array[],
  rateHz: number,
  options: { blockFrames?: number; gridBits?: number } = {},
): PcmStream {
  const frames = channels[0]?.length ?? 0;
  const step = options.blockFrames ?? BLOCK_FRAMES;
  async function* blocks(): AsyncGenerator<Block> {
    for (let at = 0; at < frames; at += step) yield sliceBlock(channels, at, at + step);
  }
  return {
    rateHz,
    channelCount: channels.length,
    frames,
    gridBits: options.gridBits ?? null,
    blocks: blocks(),
  };
}

/** Reads a stream into whole channels. For tests, short sounds and the browser's ranges only. */
export async function collectChannels(pcm: PcmStream): Promise<Float32Array[]> {
  const parts: Block[] = [];
  let frames = 0;
  for await (const block of pcm.blocks) {
    // A block's memory belongs to its maker after the next one is asked for.
    parts.push(block.map((channel) => channel.slice()));
    frames += blockFrames(block);
  }
  return Array.from({ length: pcm.channelCount }, (_, c) => {
    const whole = new Float32Array(frames);
    let at = 0;
    for (const part of parts) {
      const channel = part[c];
      if (!channel) continue;
      whole.set(channel, at);
      at += channel.length;
    }
    return whole;
  });
}

/** Passes blocks through while showing each to `look`, so that one pass can measure and write. */
export function tap(pcm: PcmStream, look: (block: Block) => void): PcmStream {
  async function* blocks(): AsyncGenerator<Block> {
    for await (const block of pcm.blocks) {
      look(block);
      yield block;
    }
  }
  return { ...pcm, blocks: blocks() };
}

/**
 * Cuts a stream into blocks of exactly `frames` frames, the last one shorter. Encoders look ahead as
 * far as the block that they are given, so only equal blocks give equal bytes.
 */
export function rechunk(pcm: PcmStream, frames: number): PcmStream {
  async function* blocks(): AsyncGenerator<Block> {
    let open = newBlock(pcm.channelCount, frames);
    let filled = 0;
    for await (const block of pcm.blocks) {
      for (let at = 0; at < blockFrames(block);) {
        const take = Math.min(frames - filled, blockFrames(block) - at);
        if (take === frames) {
          // A whole block inside a larger one needs no copy.
          yield sliceBlock(block, at, at + frames);
          at += frames;
          continue;
        }
        block.forEach((channel, c) => open[c]!.set(channel.subarray(at, at + take), filled));
        at += take;
        filled += take;
        if (filled < frames) continue;
        yield open;
        open = newBlock(pcm.channelCount, frames);
        filled = 0;
      }
    }
    if (filled > 0) yield sliceBlock(open, 0, filled);
  }
  return { ...pcm, blocks: blocks() };
}

function newBlock(channelCount: number, frames: number): Float32Array[] {
  return Array.from({ length: channelCount }, () => new Float32Array(frames));
}
