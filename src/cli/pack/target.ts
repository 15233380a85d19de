import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { copyFile, mkdir, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { basename, dirname, join, resolve } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import * as yup from 'yup';
import { BijouError } from '@/core/errors';
import { plural } from '@/core/words';
import { sha256OfFile } from '@/server/files/store';
import { zipStream, type ZippedFile } from '@/server/files/zipping';
import { makeOutFolder } from '../outFolder';
import type { PlacedFile } from './plan';

/** What is written: files of the pack, and the list of a patch. */
export type WrittenFile = Pick<PlacedFile, 'path' | 'content'>;

/** Where a pack goes: a zip by its ending, else a folder. */
export function isZipName(out: string): boolean {
  return /\.zip$/i.test(out);
}

/** Writes a zip, whole or not at all. Answers its SHA-256 and how many bytes it has. */
export async function writeZip(out: string, files: readonly WrittenFile[]) {
  await makeOutFolder(dirname(resolve(out)));
  const temporary = join(dirname(resolve(out)), `.bijou-${process.pid}-pack.part`);
  try {
    await pipeline(
      Readable.fromWeb(zipStream(each(files)) as Parameters<typeof Readable.fromWeb>[0]),
      createWriteStream(temporary, { flush: true }),
    );
    const sha256 = await sha256OfFile(temporary);
    const { size } = await stat(temporary);
    await rename(temporary, out);
    return { sha256, bytes: size };
  } finally {
    await rm(temporary, { force: true });
  }
}

async function* each(files: readonly WrittenFile[]): AsyncGenerator<ZippedFile> {
  yield* files;
}

/** Beside a folder: what Bijou has put into it. */
const recordOf = (folder: string) => join(dirname(folder), `.${basename(folder)}.bijou.json`);
const recordSchema = yup.object({
  /** Path and SHA-256 of each file. */
  pack: yup.object().required(),
});

/**
 * Writes a pack as a folder that holds it and nothing else, whole or not at all. What an earlier pack left there goes.
 * @throws not-allowed where somebody else’s files lie in it
 */
export async function writeFolder(out: string, files: readonly WrittenFile[]): Promise<void> {
  const folder = resolve(out);
  await refuseForeign(folder, new Set(files.map(({ path }) => path)));
  await makeOutFolder(dirname(folder));
  const [fresh, old] = ['pack', 'old'].map((name) =>
    join(dirname(folder), `.bijou-${process.pid}-${name}.part`),
  ) as [string, string];
  try {
    const hashes: Record<string, string> = {};
    await mkdir(fresh);
    for (const { path, content } of files) {
      const place = join(fresh, path);
      await mkdir(dirname(place), { recursive: true });
      if (content instanceof Uint8Array) await writeFile(place, content, { flush: true });
      else await copyFile(content.file, place);
      hashes[path] = await sha256OfFile(place);
    }
    await writeFile(recordOf(folder), `${JSON.stringify({ pack: hashes })}\n`);
    const isThere = (await stat(folder).catch(() => null)) !== null;
    if (isThere) await rename(folder, old);
    await rename(fresh, folder);
  } finally {
    await rm(fresh, { recursive: true, force: true });
    await rm(old, { recursive: true, force: true });
  }
}

async function refuseForeign(folder: string, wanted: ReadonlySet<string>): Promise<void> {
  const there = await filesIn(folder);
  if (there.length === 0) return;
  const ours = await recorded(folder);
  const foreign: string[] = [];
  for (const path of there) {
    const known = ours[path];
    const isOurs = known !== undefined && known === (await sha256OfFile(join(folder, path)));
    // What is put there anew is in nobody’s way if it was ours, or is not there yet.
    if (!isOurs) foreign.push(path);
  }
  if (foreign.length === 0) return;
  const named = foreign.slice(0, 3).map((path) => `"${path}"`);
  const more = foreign.length - named.length;
  const isChanged = foreign.some((path) => wanted.has(path));
  throw new BijouError(
    'not-allowed',
    `"${folder}" holds what no pack of Bijou has put there: ${named.join(', ')}${more > 0 ? ` and ${plural(more, 'other')}` : ''}.`,
    isChanged
      ? 'A pack is exact: empty the folder, or name another one.'
      : 'A pack is exact: take them away, or name another folder.',
  );
}

async function recorded(folder: string): Promise<Record<string, string>> {
  try {
    const text = await readFile(recordOf(folder), 'utf8');
    const { pack } = recordSchema.validateSync(JSON.parse(text), { strict: true });
    return pack as Record<string, string>;
  } catch {
    return {};
  }
}

/** Every file of a folder by its path with plain slashes; none where there is no folder. */
export async function filesIn(folder: string): Promise<string[]> {
  const found = await readdir(folder, { recursive: true, withFileTypes: true }).catch(() => []);
  return found
    .filter((entry) => !entry.isDirectory())
    .map(({ name, parentPath }) =>
      join(parentPath, name)
        .slice(folder.length + 1)
        .split('\\')
        .join('/'),
    )
    .sort();
}

/** SHA-256 of a stream of bytes, and how many they are. */
export async function hashOf(
  stream: AsyncIterable<Uint8Array>,
): Promise<{ sha256: string; bytes: number }> {
  const hash = createHash('sha256');
  let bytes = 0;
  for await (const piece of stream) {
    hash.update(piece);
    bytes += piece.length;
  }
  return { sha256: hash.digest('hex'), bytes };
}

/** The same of a file. */
export const hashOfFile = (path: string) => hashOf(createReadStream(path));
