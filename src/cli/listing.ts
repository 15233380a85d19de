import { lstat, open, readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { leftOutByName, splitPath } from '@/core/collect/arrivals';
import { HEAD_BYTES, isMeantAsSound } from '@/core/formats/open';
import { say } from './report';

/** A file to look at, with the folder that was named and its place in it. */
export interface ListedFile {
  path: string;
  /** Folders between the one that was named and the file; "" for a file that was named itself. */
  folder: string;
}

/**
 * Files as they were named, and every sound below the folders that were named: in order, without what is
 * hidden or no sound. What is left out is counted on standard error. Links are not followed.
 */
export async function listFiles(named: readonly string[]): Promise<ListedFile[]> {
  const lists = await Promise.all(
    named.map(async (path) => {
      const isFolder = await stat(path).then(
        (found) => found.isDirectory(),
        () => false,
      );
      return isFolder ? soundsBelow(path) : [{ path, folder: '' }];
    }),
  );
  return lists.flat();
}

async function soundsBelow(root: string): Promise<ListedFile[]> {
  const inside = (await readdir(root, { recursive: true })).sort((a, b) =>
    a.localeCompare(b, 'en', { numeric: true }),
  );
  const found: ListedFile[] = [];
  let left = 0;
  for (const name of inside) {
    const path = join(root, name);
    const entry = await lstat(path);
    if (entry.isDirectory()) continue;
    const plain = name.split('\\').join('/');
    if (entry.isFile() && leftOutByName(plain) === null && (await isSound(path))) {
      found.push({ path, folder: splitPath(plain).folder });
    } else {
      left++;
    }
  }
  if (left > 0) {
    say(`${root}: ${left} ${left === 1 ? 'file' : 'files'} left out: hidden, linked, or no sound.`);
  }
  return found;
}

async function isSound(path: string): Promise<boolean> {
  const file = await open(path, 'r');
  try {
    const head = new Uint8Array(HEAD_BYTES);
    const { bytesRead } = await file.read(head, 0, HEAD_BYTES, 0);
    return isMeantAsSound(head.subarray(0, bytesRead), path);
  } finally {
    await file.close();
  }
}
