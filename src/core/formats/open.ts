import type { ByteSource } from '../bytes/source';
import { BijouError } from '../errors';
import { noMarks } from '../marks';
import type { Block } from '../pcm/pcm';
import type { PcmSource } from '../pcm/source';
import { speakersOf } from '../pcm/speakers';
import { ascii } from './bits';
import { readers } from './index';
import { openRaw, type RawDescription } from './raw/reader';
import { skipId3v2 } from './tags/id3';
import type { OpenedFile, ReaderKind, SoundReader } from './types';

/** How much of a file is looked at to tell what it is. */
export const HEAD_BYTES = 8192;

/**
 * Opens any file that Bijou can read, by what is in it; with `raw`, as the samples that it describes.
 * @throws empty-file, not-audio, and what the reader of the format says.
 */
export async function openSound(source: ByteSource, raw?: RawDescription): Promise<SoundReader> {
  if (source.size === 0) {
    throw new BijouError(
      'empty-file',
      'The file is empty: it has 0 bytes.',
      'Check that it was copied or downloaded to the end.',
    );
  }
  if (raw) return whole(openRaw(source, raw), 'raw PCM');
  const kind = await kindOf(source);
  try {
    return whole(await kind.open(source), kind.name);
  } catch (error) {
    throw explained(error, kind.name);
  }
}

/** Finds the reader by the first bytes, or by those behind an ID3 tag. */
async function kindOf(source: ByteSource): Promise<ReaderKind> {
  const head = await source.read(0, HEAD_BYTES);
  if (ascii(head, 0, 3) === 'ID3') {
    const inner = await source.read(await skipId3v2(source), HEAD_BYTES);
    const marked = readers.find((reader) => reader.id !== 'mp3' && reader.detect(inner));
    if (marked && readsTagged.has(marked.id)) return marked;
  }
  const kind = readers.find((reader) => reader.detect(head));
  if (kind) return kind;
  throw new BijouError(
    'not-audio',
    looksLikeText(head)
      ? 'It is text, not sound, whatever its name says.'
      : 'It is not a sound in a format that Bijou reads.',
    `Bijou reads ${readers.map((reader) => reader.name).join(', ')}; raw samples when told rate, channels and encoding.`,
    { byteOffset: 0 },
  );
}

/** Endings that promise sound: those of every format, and the usual ones of bare samples. */
const soundEndings = new Set([
  // What ends in ".h" is usually no array of samples; those are told by their contents.
  ...readers.flatMap((reader) => reader.extensions).filter((ending) => ending !== 'h'),
  ...['raw', 'pcm', 'snd'],
]);

/** Whether somebody will have meant a file as a sound: its first bytes or its ending say so. */
export function isMeantAsSound(head: Uint8Array, fileName: string): boolean {
  const ending = /\.([^./]+)$/.exec(fileName)?.[1]?.toLowerCase();
  return (
    (ending !== undefined && soundEndings.has(ending)) ||
    readers.some((reader) => reader.detect(head))
  );
}

/** Whether a file holds plain samples, which can be entered at any frame at once. */
export function isPlainWav({ container, codec }: { container: string; codec: string }): boolean {
  return container === 'wav' && codec !== 'ima-adpcm';
}

/** Formats other than MP3 that may stand behind an ID3 tag. */
const readsTagged = new Set(['flac', 'adts']);

/** Leaves nothing open in the header, and gives what decoders throw a sentence. */
function whole(file: OpenedFile, name: string): SoundReader {
  const { header } = file;
  return {
    warnings: file.warnings,
    header: {
      ...noMarks,
      addedFrames: { head: 0, tail: 0 },
      otherRates: [],
      ...header,
      speakerMask: header.speakerMask ?? 0,
      speakers: speakersOf(header.channels, header.speakerMask),
    },
    pcm(startFrame) {
      const pcm = file.pcm(startFrame);
      async function* blocks(): AsyncGenerator<Block> {
        try {
          yield* pcm.blocks;
        } catch (error) {
          throw explained(error, name);
        }
      }
      return { ...pcm, speakerMask: header.speakerMask, blocks: blocks() };
    },
  };
}

/** An opened sound of `frames` frames as a source. */
export function sourceOf(reader: SoundReader, frames: number): PcmSource {
  const { rateHz, channelCount, gridBits, speakerMask } = reader.pcm();
  return {
    ...{ rateHz, channelCount, frames, gridBits, speakerMask },
    from: (startFrame) => reader.pcm(startFrame).blocks,
  };
}

/** Decoders are other people's code and meet bytes that nobody foresaw. */
function explained(error: unknown, name: string): unknown {
  // Faults of the disk carry a code and are not the format's.
  const isFromDisk = typeof (error as { code?: unknown } | null)?.code === 'string';
  if (error instanceof BijouError || isFromDisk) return error;
  return new BijouError(
    'damaged-sound',
    `The ${name} file is damaged in a way that its decoder gives up on.`,
    'Get the file again from where it came from, or export it anew.',
  );
}

function looksLikeText(head: Uint8Array): boolean {
  return head.every((byte) => byte >= 32 || byte === 9 || byte === 10 || byte === 13);
}
