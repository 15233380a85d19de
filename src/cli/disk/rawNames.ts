import { readdir, readFile, stat } from 'node:fs/promises';
import { decodeText } from '@/core/formats/bits';

const isPlain = (text: string) => /^[\u0000-\u007f]*$/.test(text);

/**
 * A path whose name is no text, as the file system calls it: what was typed has lost its bytes, or was copied from what
 * was shown of it. null where it is there as typed, where there is none, or more than one.
 */
export async function rawPlace(typed: string): Promise<Buffer | null> {
  if (isPlain(typed) || (await stat(typed).catch(() => null))) return null;
  const asTyped = await fromCommandLine(typed);
  if (asTyped && (await stat(asTyped).catch(() => null))) return asTyped;
  let places: Buffer[] = [Buffer.from(typed.startsWith('/') ? '/' : '')];
  for (const part of typed.split('/').filter((one) => one !== '')) {
    const below = await Promise.all(places.map((folder) => partsBelow(folder, part)));
    places = below.flat();
  }
  return places.length === 1 ? places[0]! : null;
}

async function partsBelow(folder: Buffer, part: string): Promise<Buffer[]> {
  const inside = folder.length === 0 ? Buffer.from('./') : folder;
  const joined = (name: Buffer) =>
    Buffer.concat([folder, folder.length > 0 && !isSlashed(folder) ? SLASH : NOTHING, name]);
  if (isPlain(part)) return [joined(Buffer.from(part))];
  const names = await readdir(inside, { encoding: 'buffer' }).catch(() => []);
  return names.filter((name) => name.toString() === part || decodeText(name) === part).map(joined);
}

const SLASH = Buffer.from('/');
const NOTHING = Buffer.alloc(0);
const isSlashed = (path: Buffer) => path.at(-1) === SLASH[0];

/** Linux still has the bytes of every word of the call. */
async function fromCommandLine(typed: string): Promise<Buffer | null> {
  const all = await readFile('/proc/self/cmdline').catch(() => null);
  if (!all) return null;
  for (let from = 0; from < all.length;) {
    const end = all.indexOf(0, from);
    const word = all.subarray(from, end < 0 ? undefined : end);
    if (word.toString() === typed) return Buffer.from(word);
    from = end < 0 ? all.length : end + 1;
  }
  return null;
}
