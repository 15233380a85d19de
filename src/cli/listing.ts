import { open, readdir, stat } from 'node:fs/promises';
import { leftOutByName, splitPath } from '@/core/collect/arrivals';
import { decodeText } from '@/core/formats/bits';
import { HEAD_BYTES, isMeantAsSound } from '@/core/formats/open';
import { say } from './output';
import { plural } from '@/core/words';

/** A file to look at, with the folder that was named and its place in it. */
export interface ListedFile {
  /** For people: file systems hold names that are no text. */
  path: string;
  /** What the file system calls it. */
  place: string | Buffer;
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
      return isFolder ? soundsBelow(path) : [{ path, place: path, folder: '' }];
    }),
  );
  return lists.flat();
}

async function soundsBelow(root: string): Promise<ListedFile[]> {
  const found: ListedFile[] = [];
  let left = 0;
  const at = Buffer.from(root.endsWith('/') ? root : `${root}/`);
  for await (const { name, place } of filesBelow(at, () => left++)) {
    const plain = name.split('\\').join('/');
    if (place && leftOutByName(plain) === null && (await isSound(place, name))) {
      found.push({ path: `${at}${name}`, place, folder: splitPath(plain).folder });
    } else {
      left++;
    }
  }
  if (left > 0) {
    say(`${root}: ${plural(left, 'file')} left out: hidden, linked, or no sound.`);
  }
  return found.sort((a, b) => a.path.localeCompare(b.path, 'en', { numeric: true }));
}

/** Everything below a folder: names below it for people, and the places of plain files. */
async function* filesBelow(
  folder: Buffer,
  unreadable: () => void,
  prefix = '',
): AsyncGenerator<{ name: string; place: Buffer | null }> {
  const entries = await readdir(folder, { withFileTypes: true, encoding: 'buffer' }).catch(() => {
    unreadable();
    return [];
  });
  for (const entry of entries) {
    const name = prefix + decodeText(entry.name);
    const place = Buffer.concat([folder, entry.name]);
    if (entry.isDirectory()) {
      yield* filesBelow(Buffer.concat([place, Buffer.from('/')]), unreadable, `${name}/`);
    } else {
      yield { name, place: entry.isFile() ? place : null };
    }
  }
}

/** What cannot be opened is listed by its name, and said when its turn comes. */
async function isSound(place: Buffer, name: string): Promise<boolean> {
  const head = new Uint8Array(HEAD_BYTES);
  const file = await open(place, 'r').catch(() => null);
  if (!file) return isMeantAsSound(head.subarray(0, 0), name);
  try {
    const { bytesRead } = await file.read(head, 0, HEAD_BYTES, 0);
    return isMeantAsSound(head.subarray(0, bytesRead), name);
  } finally {
    await file.close();
  }
}
