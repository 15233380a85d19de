import { fstat } from 'node:fs';
import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import type { ByteSource } from '@/core/bytes/source';
import { BijouError } from '@/core/errors';
import { withFile, writeTemporary } from '@/server/files/bytes';
import { mostBytes, tooLarge } from '@/server/limits';
import { whileGoing } from './batch/stopping';
import { dropTemporary, systemWorkFolder } from './disk/temporaries';

/** The name that stands for standard input and standard output. */
export const STANDARD = '-';

/** What the file system calls a file: names need not be text. */
export type Place = string | Buffer;

/** Opens a file within the limit on size. @throws changed-meanwhile when somebody writes to it all the while */
export async function withInput<T>(
  place: Place,
  use: (source: ByteSource) => Promise<T>,
): Promise<T> {
  // Names come back from other threads as plain bytes.
  const path = typeof place === 'string' ? place : Buffer.from(place);
  const before = await changeOf(path);
  const result = await withFile(path, (source) => {
    if (source.size > mostBytes()) throw tooLarge();
    return use(whileGoing(source));
  });
  if ((await changeOf(path)) !== before) throw changedMeanwhile();
  return result;
}

/** Tells states of a file apart. */
export async function changeOf(place: Place): Promise<string> {
  const { size, mtimeMs } = await stat(place);
  return `${size} ${mtimeMs}`;
}

export function changedMeanwhile(): BijouError {
  return new BijouError(
    'changed-meanwhile',
    'It was changed while it was read.',
    'Try again when nobody writes to it.',
  );
}

/** @throws not-allowed where nothing can come through standard input, or no end */
async function refuseStandard(): Promise<void> {
  const found = await promisify(fstat)(0);
  const what = process.stdin.isTTY
    ? 'a terminal'
    : found.isDirectory()
      ? 'a folder'
      : found.isCharacterDevice() || found.isBlockDevice()
        ? 'a device'
        : null;
  if (what === null) return;
  throw new BijouError(
    'not-allowed',
    `Standard input is ${what}, and no file.`,
    'Send a file through it, as in `cat a.wav | bijou probe -`.',
  );
}

/** Standard input as a file: headers are read from anywhere in one, so what streams in is put down first. */
export class StandardInput {
  private folder: string | null = null;
  private path: Promise<string> | null = null;

  place(): Promise<string> {
    return (this.path ??= this.putDown());
  }

  private async putDown(): Promise<string> {
    await refuseStandard();
    this.folder = await systemWorkFolder();
    const path = join(this.folder, 'input');
    await writeTemporary(path, async (sink) => {
      let bytes = 0;
      for await (const piece of process.stdin as AsyncIterable<Uint8Array>) {
        bytes += piece.length;
        if (bytes > mostBytes()) throw tooLarge();
        await sink.write(piece);
      }
    });
    return path;
  }

  async drop(): Promise<void> {
    if (this.folder) await dropTemporary(this.folder);
  }
}
