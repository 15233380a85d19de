import { isPlainWav, openSound } from '@/core/formats/open';
import { writeSound } from '@/core/formats/write';
import type { Loop } from '@/core/marks';
import { measured, type ProbeOptions } from '@/core/measure/probe';
import type { PcmStream } from '@/core/pcm/pcm';
import { PyramidBuilder } from '@/core/measure/pyramid';
import { ThumbnailBuilder } from '@/core/measure/thumbnail';
import { withFile, writeTemporary } from '../files/bytes';
import { isShort } from './plainSound';
import type { ReadResult, ReadTask } from './tasks';

/** What a float WAV file can hold at most; a longer sound's working copy has 16 bits. */
const MOST_FLOAT_BYTES = 3.5e9;

/**
 * Decodes a file once and measures it. Where it is to be kept for listening, it leaves its peak pyramid and, unless it
 * is WAV itself or short, a WAV copy of what was decoded, which can be read from any frame on.
 */
export async function readFile(
  { source: path, raw, keep, voice, loop }: Omit<ReadTask, 'kind'> & { loop?: Loop | null },
  progress: NonNullable<ProbeOptions['progress']>,
): Promise<ReadResult> {
  return withFile(path, async (source) => {
    const reader = await openSound(source, raw ?? undefined);
    const pyramid = keep && new PyramidBuilder(reader.header.channels);
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
    // Codecs cannot be entered anywhere; plain samples in WAV can.
    const isCopied = keep !== null && !isPlainWav(reader.header);
    let hasWorkingCopy = isCopied && !isShort(reader);
    if (hasWorkingCopy) await writeCopy(pcm, keep!.workingCopy);
    else for await (const block of pcm.blocks) void block;
    const read = await result();
    // It may be longer than its header says.
    if (isCopied && !hasWorkingCopy && !isShort(reader, read.facts.frames)) {
      await writeCopy(reader.pcm(), keep.workingCopy);
      hasWorkingCopy = true;
    }
    if (pyramid) await writeTemporary(keep.peaks, (sink) => sink.write(pyramid.finish()));
    return { ...read, hasWorkingCopy, thumbnail: thumbnail.finish() };
  });
}

async function writeCopy(pcm: PcmStream, path: string): Promise<void> {
  const floatBytes = (pcm.frames ?? 0) * pcm.channelCount * 4;
  const bits = floatBytes > MOST_FLOAT_BYTES ? 16 : 32;
  await writeTemporary(path, (sink) => writeSound(pcm, 'wav', { bits }, sink));
}
