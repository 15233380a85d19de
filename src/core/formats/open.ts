import type { ByteSource } from '../bytes/source';
import { BijouError } from '../errors';
import { readers } from './index';
import type { SoundReader } from './types';

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
  return reader.open(source);
}

function looksLikeText(head: Uint8Array): boolean {
  return head.every((byte) => byte >= 32 || byte === 9 || byte === 10 || byte === 13);
}
