import { memorySource } from '@/core/bytes/source';
import { BijouError } from '@/core/errors';
import { openSound } from '@/core/formats/open';
import { Analyser } from '@/core/measure/analyser';

/** No file of a few hundred kilobytes may take longer than this. */
const MOST_MS = 10_000;
/** Nor become more sound than this: an hour from a small file is a bomb. */
const MOST_FRAMES = 200_000_000;

/** Decodes bytes to the end; answers what is wrong with how that went, or null. A BijouError is fine. */
export async function surviving(bytes: Uint8Array): Promise<string | null> {
  const began = performance.now();
  let frames = 0;
  try {
    const reader = await openSound(memorySource(bytes));
    const pcm = reader.pcm();
    const { rateHz, channelCount } = pcm;
    const analyser = new Analyser({ rateHz, channelCount, bitDepth: reader.header.bitDepth });
    for await (const block of pcm.blocks) {
      for (const channel of block) {
        for (let i = 0; i < channel.length; i++)
          if (!Number.isFinite(channel[i]!)) return 'a sample that is no number';
      }
      if (block.length === channelCount) analyser.push(block);
      frames += block[0]?.length ?? 0;
      if (performance.now() - began > MOST_MS) return `more than ${MOST_MS} ms`;
      if (frames > MOST_FRAMES) return 'sound without end';
    }
    JSON.stringify(analyser.result());
  } catch (error) {
    if (!(error instanceof BijouError) || error.code === 'internal')
      return `an error nobody explained: ${String(error)}`;
  }
  return performance.now() - began > MOST_MS ? `more than ${MOST_MS} ms` : null;
}
