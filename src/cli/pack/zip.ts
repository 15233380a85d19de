import { createWriteStream } from 'node:fs';
import { rename } from 'node:fs/promises';
import { basename, dirname, resolve } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { BijouError } from '@/core/errors';
import { putInPlace, syncFolder } from '@/server/files/bytes';
import { zipStream, type ZippedFile } from '@/server/files/zipping';
import { stoppedByHand } from '../batch/stopping';
import { hashOfFile, type Hashed } from '../disk/copies';
import { withLock } from '../disk/lock';
import { makeOutFolder } from '../disk/outFolder';
import { whatIsAt } from '../disk/present';
import { clearDead, dropTemporary, temporaryIn } from '../disk/temporaries';
import { isTold } from '../ending';
import type { WrittenFile } from './folder';
import { lockOf, PackRecord } from './record';

/** Where a pack goes: a zip by its ending, else a folder. */
export function isZipName(out: string): boolean {
  return /\.zip$/i.test(out);
}

/**
 * Writes a zip, whole or not at all. Answers its SHA-256 and how many bytes it has.
 * @throws not-allowed and already-there where something lies there that is not proven to be ours
 */
export async function writeZip(
  out: string,
  files: readonly WrittenFile[],
  overwrite: boolean,
): Promise<Hashed> {
  const path = resolve(out);
  const folder = dirname(path);
  await makeOutFolder(folder);
  await clearDead(folder);
  const temporary = temporaryIn(folder);
  try {
    await pipeline(
      Readable.fromWeb(zipStream(each(files)) as Parameters<typeof Readable.fromWeb>[0]),
      createWriteStream(temporary, { flush: true, flags: 'wx' }),
    );
    const made = (await hashOfFile(temporary))!;
    if (isTold()) throw stoppedByHand();
    await withLock(lockOf(path), () => exchange(path, temporary, made.sha256, overwrite));
    return made;
  } finally {
    await dropTemporary(temporary);
  }
}

/** Looks whether a zip may be written there. @throws not-allowed, already-there */
export async function checkZip(out: string, overwrite: boolean): Promise<void> {
  const path = resolve(out);
  await replaceable(path, await PackRecord.of(path), overwrite);
}

async function exchange(path: string, temporary: string, sha256: string, overwrite: boolean) {
  const record = await PackRecord.of(path);
  const name = basename(path);
  const there = await replaceable(path, record, overwrite);
  await record.expect(there === null ? {} : { [name]: there }, { [name]: sha256 });
  if (there === null) await putInPlace(temporary, path, false);
  else await rename(temporary, path);
  await syncFolder(dirname(path));
  await record.settle();
}

/** The SHA-256 of the zip that may be replaced; null where there is nothing. @throws not-allowed, already-there */
async function replaceable(
  path: string,
  record: PackRecord,
  overwrite: boolean,
): Promise<string | null> {
  const found = await whatIsAt(path);
  if (!found) return null;
  if (!found.isFile() && !found.isSymbolicLink()) {
    throw new BijouError(
      'not-allowed',
      `"${path}" is no file.`,
      'Name another file that ends with .zip.',
    );
  }
  const { sha256 } = (await hashOfFile(path)) ?? { sha256: '' };
  if (overwrite || record.knows(basename(path), sha256)) return sha256;
  throw new BijouError(
    'already-there',
    `"${path}" is there already, and not as Bijou has left it.`,
    'Use --overwrite to replace it, or name another file.',
  );
}

async function* each(files: readonly WrittenFile[]): AsyncGenerator<ZippedFile> {
  for (const { path, content, sha256 } of files) {
    yield {
      path,
      content: content instanceof Uint8Array ? content : { file: content.file, sha256 },
    };
  }
}
