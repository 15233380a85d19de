import { stat } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { BijouError } from '@/core/errors';
import type { KeptFile } from '@/core/pack/changes';
import { withArchive } from '@/server/files/zip';
import type { ReadOnlyBijou } from '@/server/readOnly';
import { hashOf, hashOfFile } from '../disk/copies';
import { filesIn } from '../disk/walk';

/** An earlier pack: its files, and its number where the application made it. */
export interface EarlierPack {
  id: number | null;
  files: KeptFile[];
}

/**
 * An earlier pack: one that the application made, by its number, or any zip or folder.
 * @throws not-found, damaged-header
 */
export async function earlierPack(
  bijou: ReadOnlyBijou,
  projectId: number,
  named: string,
): Promise<EarlierPack> {
  const id = /^\d+$/.test(named) ? Number(named) : null;
  const pack = id === null ? undefined : bijou.db.madePacks.byId(id);
  if (pack?.projectId === projectId && pack.state === 'done') {
    return { id, files: bijou.db.madePacks.files(pack.id) };
  }
  const found = await stat(named).catch(() => null);
  if (found?.isDirectory()) return { id: null, files: await folderFiles(resolve(named)) };
  if (found?.isFile()) return { id: null, files: await zipFiles(named) };
  throw new BijouError(
    'not-found',
    `There is no earlier pack "${named}".`,
    'Name a pack by its number in Bijou, or a zip or folder of one.',
  );
}

async function folderFiles(folder: string): Promise<KeptFile[]> {
  const files: KeptFile[] = [];
  for (const path of await filesIn(folder)) {
    const hashed = await hashOfFile(join(folder, path));
    if (!hashed) throw noFile(folder, path);
    files.push({ path, ...hashed });
  }
  return files;
}

function zipFiles(path: string): Promise<KeptFile[]> {
  return withArchive(path, async (entries) => {
    const files: KeptFile[] = [];
    for (const entry of entries) {
      files.push({ path: entry.path, ...(await hashOf(await entry.open())) });
    }
    return files;
  });
}

function noFile(folder: string, path: string): BijouError {
  return new BijouError(
    'not-allowed',
    `"${path}" in "${folder}" is no file: a link, a pipe or a device is in no pack.`,
    'Take it away, or name the pack itself.',
  );
}
