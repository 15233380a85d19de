import { BijouError } from '../errors';
import { count } from '../tradeNames';
import type { Checking } from './checks';
import { objectionOf } from './checks';
import { MOST_TEXT_BYTES } from './limits';
import type { FoundFile } from './pack';

const ASKED = 'text in UTF-8, without a mark in front';

/** Reads a text of a pack and checks how its letters are written down; null where it is refused. */
export async function readText(
  file: FoundFile,
  checking: Checking,
  mostBytes = MOST_TEXT_BYTES,
): Promise<string | null> {
  try {
    const bytes = await bytesOf(file, mostBytes);
    if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf) {
      throw new BijouError(
        'not-legal',
        'It begins with a byte-order mark.',
        'Save it as UTF-8 without a mark.',
      );
    }
    const text = decoded(bytes);
    checking.met(file.path, 'encoding', ASKED, 'UTF-8');
    return text;
  } catch (error) {
    checking.refuse(file.path, objectionOf(error, 'encoding', ASKED));
    return null;
  }
}

/** All bytes of a small file. @throws too-large, damaged-sound */
export async function bytesOf(file: FoundFile, mostBytes: number): Promise<Uint8Array> {
  if (file.bytes > mostBytes) throw tooLarge(file.bytes, mostBytes);
  const source = await file.open();
  if (source.size > mostBytes) throw tooLarge(source.size, mostBytes);
  return source.read(0, source.size);
}

function decoded(bytes: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(bytes);
  } catch {
    const isWide = bytes[0] === 0xff || bytes[0] === 0xfe;
    throw new BijouError(
      'not-legal',
      isWide ? 'It is written in UTF-16.' : 'It has bytes that are no UTF-8.',
      'Save it as UTF-8 without a mark.',
    );
  }
}

function tooLarge(bytes: number, most: number): BijouError {
  return new BijouError(
    'too-large',
    `It has ${count(bytes)} bytes; the host reads at most ${count(most)} of such a file.`,
    'Make it smaller, or take out what does not belong there.',
  );
}
