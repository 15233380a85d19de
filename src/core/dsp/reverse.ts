import type { Scratch } from '../bytes/source';
import { blockFrames, type Block, type PcmStream } from '../pcm/pcm';

/** Plays a sound backwards. Its samples are put aside first, because they come in the wrong order. */
export function reverse(pcm: PcmStream, makeScratch: () => Promise<Scratch>): PcmStream {
  async function* blocks(): AsyncGenerator<Block> {
    const scratch = await makeScratch();
    try {
      const lengths: number[] = [];
      for await (const block of pcm.blocks) {
        lengths.push(blockFrames(block));
        for (const channel of block) {
          await scratch.write(
            new Uint8Array(channel.buffer, channel.byteOffset, channel.byteLength).slice(),
          );
        }
      }
      let end = scratch.size;
      for (const frames of lengths.reverse()) {
        const bytes = frames * 4;
        end -= bytes * pcm.channelCount;
        const whole = await scratch.read(end, bytes * pcm.channelCount);
        yield Array.from({ length: pcm.channelCount }, (_, c) => {
          const channel = new Float32Array(whole.slice(c * bytes, (c + 1) * bytes).buffer);
          return channel.reverse();
        });
      }
    } finally {
      await scratch.free();
    }
  }
  return { ...pcm, blocks: blocks() };
}
