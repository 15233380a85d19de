import { createHash } from 'node:crypto';
import { constants, createReadStream } from 'node:fs';
import { open } from 'node:fs/promises';
import { BijouError } from '@/core/errors';
import { whatIsAt } from './present';

export interface Hashed {
  sha256: string;
  bytes: number;
}

/** SHA-256 of a stream of bytes, and how many they are. */
export async function hashOf(stream: AsyncIterable<Uint8Array>): Promise<Hashed> {
  const hash = createHash('sha256');
  let bytes = 0;
  for await (const piece of stream) {
    hash.update(piece);
    bytes += piece.length;
  }
  return { sha256: hash.digest('hex'), bytes };
}

/** The same of a plain file; null for what is none: a pipe would keep its reader waiting. */
export async function hashOfFile(path: string): Promise<Hashed | null> {
  const found = await whatIsAt(path);
  return found?.isFile() ? hashOf(createReadStream(path)) : null;
}

/**
 * Writes a new file of bytes that have to be these, with the permissions that new files get.
 * @throws damaged-sound for others, and what the file system says
 */
export async function writeProven(
  path: string,
  content: Uint8Array | { file: string },
  sha256: string,
): Promise<void> {
  const hash = createHash('sha256');
  const file = await open(path, constants.O_WRONLY | constants.O_CREAT | constants.O_EXCL);
  try {
    const pieces = content instanceof Uint8Array ? [content] : createReadStream(content.file);
    for await (const piece of pieces as AsyncIterable<Uint8Array>) {
      hash.update(piece);
      await file.writeFile(piece);
    }
    await file.sync();
  } finally {
    await file.close();
  }
  if (hash.digest('hex') !== sha256) throw damagedMeanwhile();
}

function damagedMeanwhile(): BijouError {
  return new BijouError(
    'damaged-sound',
    'A finished file is not any more as it was when it was proven.',
    'Call again: it is built anew.',
  );
}
