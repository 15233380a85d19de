import type { ByteSource } from '../bytes/source';
import { BijouError } from '../errors';
import type { Block } from '../pcm/pcm';
import { readers } from './index';
import type { ReaderKind, SoundReader } from './types';

const HEAD_BYTES = 8192;

/**
 * Opens any file that Bijou can read, by what is in it.
 * @throws empty-file, not-audio, and what the reader of the format says.
 */
export async function openSound(source: ByteSource): Promise<SoundReader> {
  if (source.size === 0) {
    throw new BijouError(
      'empty-file',
      'The file is empty: it has 0 bytes.',
      'Check that it was copied or downloaded to the end.',
    );
  }
  const head = await source.read(0, HEAD_BYTES);
  const reader = readers.find((kind) => kind.detect(head));
  if (!reader) {
    throw new BijouError(
      'not-audio',
      looksLikeText(head)
        ? 'It is text, not sound, whatever its name says.'
        : 'It is not a sound in a format that Bijou reads.',
      `Bijou reads ${readers.map((kind) => kind.name).join(', ')}.`,
      { byteOffset: 0 },
    );
  }
  try {
    return guarded(await reader.open(source), reader);
  } catch (error) {
    throw explained(error, reader);
  }
}

/** Decoders are other people's code and meet bytes that nobody foresaw: what they throw gets a sentence. */
function guarded(reader: SoundReader, kind: ReaderKind): SoundReader {
  return {
    ...reader,
    pcm(startFrame) {
      const pcm = reader.pcm(startFrame);
      async function* blocks(): AsyncGenerator<Block> {
        try {
          yield* pcm.blocks;
        } catch (error) {
          throw explained(error, kind);
        }
      }
      return { ...pcm, blocks: blocks() };
    },
  };
}

function explained(error: unknown, kind: ReaderKind): unknown {
  // Faults of the disk carry a code and are not the format's.
  const isFromDisk = typeof (error as { code?: unknown } | null)?.code === 'string';
  if (error instanceof BijouError || isFromDisk) return error;
  return new BijouError(
    'damaged-sound',
    `The ${kind.name} file is damaged in a way that its decoder gives up on.`,
    'Get the file again from where it came from, or export it anew.',
  );
}

function looksLikeText(head: Uint8Array): boolean {
  return head.every((byte) => byte >= 32 || byte === 9 || byte === 10 || byte === 13);
}
