import { createHash } from 'node:crypto';
import { opendir, stat } from 'node:fs/promises';
import { basename, join, resolve } from 'node:path';
import type { ByteSource } from '@/core/bytes/source';
import { memorySource } from '@/core/bytes/source';
import { BijouError } from '@/core/errors';
import { MOST_FILES, MOST_SOUND_BYTES, tooLargeFile } from '@/core/host/limits';
import type { FoundFile, FoundPack } from '@/core/host/pack';
import { withFile } from './bytes';

/** A folder on the disk as a pack: files alone, links are not followed. Beyond what a host reads nothing is listed. */
export async function foundFolder(folder: string): Promise<FoundPack> {
  const files: FoundFile[] = [];
  async function walk(inside: string): Promise<void> {
    const entries = await opendir(join(folder, inside));
    for await (const entry of entries) {
      if (files.length > MOST_FILES) break;
      const path = inside === '' ? entry.name : `${inside}/${entry.name}`;
      if (entry.isDirectory()) await walk(path);
      else if (entry.isFile()) files.push(await foundFile(join(folder, path), path));
    }
  }
  await walk('');
  files.sort((a, b) => (a.path < b.path ? -1 : 1));
  return { name: basename(resolve(folder)), form: 'folder', files };
}

/** A file of the disk as one of a pack; with its SHA-256 where it is known what it has to be. */
export async function foundFile(place: string, path: string, sha256?: string): Promise<FoundFile> {
  const { size } = await stat(place);
  return { path, bytes: size, open: () => readWhole(place, size, sha256) };
}

async function readWhole(place: string, size: number, sha256?: string): Promise<ByteSource> {
  if (size > MOST_SOUND_BYTES) throw tooLargeFile(size);
  const bytes = await withFile(place, (source) => source.read(0, source.size));
  if (sha256 === undefined || createHash('sha256').update(bytes).digest('hex') === sha256) {
    return memorySource(bytes);
  }
  throw new BijouError(
    'damaged-sound',
    'It is not any more as it was when it was proven.',
    'Build it again.',
  );
}
