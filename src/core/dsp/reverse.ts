import { BLOCK_FRAMES } from '../pcm/pcm';
import { wholeRange, type PcmSource } from '../pcm/source';

/** Plays a sound backwards. */
export function reverse(source: PcmSource): PcmSource {
  return {
    ...source,
    async *from(startFrame) {
      for (let end = source.frames - startFrame; end > 0; end -= BLOCK_FRAMES) {
        const block = await wholeRange(source, Math.max(0, end - BLOCK_FRAMES), end);
        yield block.map((channel) => channel.reverse());
      }
    },
  };
}
