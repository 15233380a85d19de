import { readFileSync } from 'node:fs';
import { memorySource } from '@/core/bytes/source';
import { BijouError } from '@/core/errors';
import { openSound } from '@/core/formats/open';
import { Analyser } from '@/core/measure/analyser';

/** No file may take longer than this to be opened, nor longer to be decoded than a twentieth of its sound beyond it. */
const MOST_MS = 5_000;
/** Half of what planning threads allow. */
const MOST_TEXT_MS = 10_000;
/** What has become so much sound, fast enough, goes on like that until it is too long. */
const MOST_FRAMES = 2_000_000;
/** Measuring has its own pace: only the beginning is measured. */
const MOST_MEASURED_FRAMES = 500_000;

/** Time that this thread has worked, where the system tells it (Linux): others on the machine do not count. */
function workedMs(): number {
  try {
    return Number(readFileSync('/proc/thread-self/schedstat', 'utf8').split(' ')[0]) / 1e6;
  } catch {
    return performance.now();
  }
}

/** Does with a text what Bijou does with it; answers what is wrong with how that went, or null. */
export async function survivingText(
  take: (bytes: Uint8Array) => unknown,
  bytes: Uint8Array,
): Promise<string | null> {
  const began = workedMs();
  try {
    await take(bytes);
  } catch (error) {
    if (!(error instanceof BijouError) || error.code === 'internal')
      return `an error nobody explained: ${String(error)}`;
  }
  const ms = workedMs() - began;
  return ms > MOST_TEXT_MS ? `more than ${Math.round(ms)} ms` : null;
}

/** Decodes bytes to the end; answers what is wrong with how that went, or null. A BijouError is fine. */
export async function surviving(bytes: Uint8Array): Promise<string | null> {
  const began = workedMs();
  let frames = 0;
  let most = MOST_MS;
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
      if (block.length === channelCount && frames < MOST_MEASURED_FRAMES) analyser.push(block);
      frames += block[0]?.length ?? 0;
      most = MOST_MS + (frames * 1_000) / rateHz / 20;
      if (workedMs() - began > most) return `more than ${Math.round(most)} ms`;
      if (frames > MOST_FRAMES) return null;
    }
    JSON.stringify(analyser.result());
  } catch (error) {
    if (!(error instanceof BijouError) || error.code === 'internal')
      return `an error nobody explained: ${String(error)}`;
  }
  return workedMs() - began > most ? `more than ${Math.round(most)} ms` : null;
}
