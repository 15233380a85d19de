import { openSound } from '@/core/formats/open';
import { writeSound } from '@/core/formats/write';
import { blockFrames, tap } from '@/core/pcm/pcm';
import { withFile, writeTemporary } from '../files/bytes';
import { isPlain } from './plainSound';
import type { CopyTask } from './tasks';

/** What a float WAV file can hold at most; a longer sound's working copy has 16 bits. */
const MOST_FLOAT_BYTES = 3.5e9;

/**
 * Decodes a long sound into WAV, which can be read from any frame on. Answers whether there is such a copy: what is WAV
 * itself, or short, needs none.
 */
export async function copySamples(
  { source: path, raw, frames: counted, output }: CopyTask,
  progress: (share: number) => void,
): Promise<boolean> {
  return withFile(path, async (source) => {
    const reader = await openSound(source, raw ?? undefined);
    const frames = counted ?? reader.header.frames;
    if (isPlain({ ...reader.header, frames })) return false;
    const pcm = reader.pcm();
    const bits = (frames ?? 0) * pcm.channelCount * 4 > MOST_FLOAT_BYTES ? 16 : 32;
    let written = 0;
    const counting = tap(pcm, (block) => {
      written += blockFrames(block);
      progress(frames ? written / frames : 0);
    });
    await writeTemporary(output, (sink) => writeSound(counting, 'wav', { bits }, sink));
    return true;
  });
}
