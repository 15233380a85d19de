import { openSound } from '@/core/formats/open';
import type { Loop } from '@/core/marks';
import { measured, type ProbeOptions } from '@/core/measure/probe';
import { PyramidBuilder } from '@/core/measure/pyramid';
import { ThumbnailBuilder } from '@/core/measure/thumbnail';
import { withFile, writeTemporary } from '../files/bytes';
import type { ReadResult, ReadTask } from './tasks';

/** Decodes a file once and measures it. Where it is to be looked at, it leaves its peak pyramid. */
export async function readFile(
  { source: path, raw, peaks, voice, loop }: Omit<ReadTask, 'kind'> & { loop?: Loop | null },
  progress: NonNullable<ProbeOptions['progress']>,
): Promise<ReadResult> {
  return withFile(path, async (source) => {
    const reader = await openSound(source, raw ?? undefined);
    const pyramid = peaks === null ? null : new PyramidBuilder(reader.header.channels);
    const thumbnail = new ThumbnailBuilder();
    const { pcm, result } = measured(reader, source.size, {
      loop,
      voice,
      look(block) {
        pyramid?.push(block);
        thumbnail.push(block);
      },
      progress,
    });
    for await (const block of pcm.blocks) void block;
    const read = await result();
    if (peaks !== null) await writeTemporary(peaks, (sink) => sink.write(pyramid!.finish()));
    return { ...read, thumbnail: thumbnail.finish() };
  });
}
