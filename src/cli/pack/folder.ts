import { chmod, mkdir, readdir, rename, rmdir, unlink } from 'node:fs/promises';
import { basename, dirname, join, resolve } from 'node:path';
import { BijouError } from '@/core/errors';
import { plural } from '@/core/words';
import { syncFolder } from '@/server/files/bytes';
import { stoppedByHand } from '../batch/stopping';
import { hashOfFile, writeProven } from '../disk/copies';
import { withLock } from '../disk/lock';
import { makeOutFolder } from '../disk/outFolder';
import { isThere, whatIsAt } from '../disk/present';
import { clearDead, dropTemporary, workFolderIn } from '../disk/temporaries';
import { fileTrouble } from '../disk/trouble';
import { isTold } from '../ending';
import type { PlacedFile } from './plan';
import { lockOf, PackRecord } from './record';

/** What is written: files of the pack, and the list of a patch. */
export type WrittenFile = Pick<PlacedFile, 'path' | 'content' | 'sha256'>;

/** Where the folder lies that is being exchanged, until the other one is in its place. */
const oldOf = (folder: string) => join(dirname(folder), `.${basename(folder)}.bijou-old`);

/** A file of ours as it was looked at. */
interface OwnFile {
  path: string;
  sha256: string;
  /** Tells its states apart. */
  stamp: string;
}

/**
 * Writes a pack as a folder that holds it and nothing else, whole or not at all. What an earlier pack left there goes;
 * answers where that lies which somebody put in meanwhile, else null.
 * @throws not-allowed where anything lies there that is not proven to be ours
 */
export async function writeFolder(
  out: string,
  files: readonly WrittenFile[],
): Promise<string | null> {
  const folder = resolve(out);
  const above = dirname(folder);
  await makeOutFolder(above);
  await clearDead(above);
  const work = await workFolderIn(above);
  try {
    const fresh = join(work, 'pack');
    await mkdir(fresh);
    await fill(fresh, files);
    if (isTold()) throw stoppedByHand();
    return await withLock(lockOf(folder), () => exchange(folder, fresh, files));
  } finally {
    await dropTemporary(work);
  }
}

/** Looks whether a folder may be written there, and puts back what a call left that was ended. @throws not-allowed */
export async function checkFolder(out: string): Promise<void> {
  const folder = resolve(out);
  if (!(await isThere(folder)) && !(await isThere(oldOf(folder)))) return;
  await withLock(lockOf(folder), async () => {
    const record = await PackRecord.of(folder);
    await putBack(folder, record);
    await ownFiles(folder, record);
  });
}

async function fill(fresh: string, files: readonly WrittenFile[]): Promise<void> {
  const folders = new Set([fresh]);
  for (const { path, content, sha256 } of files) {
    const place = join(fresh, path);
    await mkdir(dirname(place), { recursive: true });
    folders.add(dirname(place));
    await writeProven(place, content, sha256);
  }
  for (const folder of folders) await syncFolder(folder);
}

async function exchange(
  folder: string,
  fresh: string,
  files: readonly WrittenFile[],
): Promise<string | null> {
  const record = await PackRecord.of(folder);
  await putBack(folder, record);
  const there = await ownFiles(folder, record);
  await record.expect(hashesOf(there?.files ?? []), hashesOf(files));
  const old = oldOf(folder);
  if (there) {
    await chmod(fresh, there.mode & 0o7777);
    await rename(folder, old);
  }
  try {
    // Somebody may have put something in since it was looked at.
    if (there) refuseForeign(folder, changed(await listed(old), there.files));
    await rename(fresh, folder);
  } catch (error) {
    if (there) await rename(old, folder).catch(() => Promise.reject(notPutBack(folder)));
    throw error;
  }
  await syncFolder(dirname(folder));
  await record.settle();
  return there && clearOld(folder, there.files);
}

const hashesOf = (files: readonly { path: string; sha256: string }[]) =>
  Object.fromEntries(files.map(({ path, sha256 }) => [path, sha256]));

/**
 * Finishes what a call was ended in: between the two renames of an exchange the folder gets its name again, behind them
 * what is left of the old one goes. @throws not-allowed
 */
async function putBack(folder: string, record: PackRecord): Promise<void> {
  const old = oldOf(folder);
  if (!record.isThere || !(await whatIsAt(old))?.isDirectory()) return;
  const there = await ownFiles(folder, record);
  if (!there || there.files.length === 0) return rename(old, folder);
  const { ours } = await sorted(old, await listed(old), record);
  await clearOld(folder, ours);
}

/**
 * The files of a folder, all of them ours; null where there is no folder.
 * @throws not-allowed
 */
async function ownFiles(folder: string, record: PackRecord) {
  const found = await whatIsAt(folder).catch((error: NodeJS.ErrnoException) => {
    throw refusal(`"${folder}" cannot be looked at (${fileTrouble(error)}).`, ANOTHER);
  });
  if (!found) return null;
  if (!found.isDirectory()) {
    const isLink = found.isSymbolicLink();
    throw refusal(
      `"${folder}" is ${isLink ? 'a link' : 'a file'}, and no folder of Bijou’s.`,
      isLink ? 'Name the folder itself, or another one.' : 'Name another folder, or a file.zip.',
    );
  }
  const list = await listed(folder).catch((error: NodeJS.ErrnoException) => {
    throw refusal(`"${folder}" cannot be listed (${fileTrouble(error)}).`, ANOTHER);
  });
  const { ours, foreign } = await sorted(folder, list, record);
  refuseForeign(folder, foreign);
  return { files: ours, mode: found.mode };
}

const ANOTHER = 'Check its permissions, or name another folder.';

/** Everything in a folder: files by their path with plain slashes, folders with one at the end. */
async function listed(folder: string, inside = ''): Promise<string[]> {
  const entries = await readdir(join(folder, inside), { withFileTypes: true });
  const paths: string[] = [];
  for (const entry of entries) {
    const path = `${inside}${entry.name}`;
    if (entry.isDirectory()) paths.push(`${path}/`, ...(await listed(folder, `${path}/`)));
    else paths.push(path);
  }
  return paths.sort();
}

/** Tells what of a folder is ours, by its bytes, and what is not. */
async function sorted(folder: string, list: readonly string[], record: PackRecord) {
  const folders = new Set(record.paths.flatMap(foldersAbove));
  const ours: OwnFile[] = [];
  const foreign: string[] = [];
  for (const path of list) {
    if (path.endsWith('/')) {
      if (!folders.has(path)) foreign.push(path);
      continue;
    }
    const stamp = await stampOf(join(folder, path));
    const hashed = await hashOfFile(join(folder, path));
    if (hashed && record.knows(path, hashed.sha256))
      ours.push({ path, sha256: hashed.sha256, stamp });
    else foreign.push(path);
  }
  return { ours, foreign };
}

/** "a/b/c.ogg" lies in "a/" and "a/b/". */
function foldersAbove(path: string): string[] {
  const parts = path.split('/').slice(0, -1);
  return parts.map((_, i) => `${parts.slice(0, i + 1).join('/')}/`);
}

/** What was not there when a folder was looked at. */
function changed(list: readonly string[], files: readonly OwnFile[]): string[] {
  const known = new Set(files.flatMap(({ path }) => [path, ...foldersAbove(path)]));
  return list.filter((path) => !known.has(path));
}

function refuseForeign(folder: string, foreign: readonly string[]): void {
  if (foreign.length === 0) return;
  const named = foreign.slice(0, 3).map((path) => `"${path}"`);
  const more = foreign.length - named.length;
  throw refusal(
    `"${folder}" holds what no pack of Bijou has put there: ${named.join(', ')}${more > 0 ? ` and ${plural(more, 'other')}` : ''}.`,
    'A pack’s folder holds nothing else: take them away, or name another folder.',
  );
}

/** Removes what was ours before. What somebody has put in or written to since then stays, and gets a name that is seen. */
async function clearOld(folder: string, files: readonly OwnFile[]): Promise<string | null> {
  const old = oldOf(folder);
  for (const { path, stamp } of files) {
    if ((await stampOf(join(old, path))) === stamp) await unlink(join(old, path));
  }
  const folders = new Set(files.flatMap(({ path }) => foldersAbove(path)));
  for (const path of [...folders].sort().reverse()) await rmdir(join(old, path)).catch(unlessFull);
  await rmdir(old).catch(unlessFull);
  if (!(await isThere(old))) return null;
  for (let n = 1; ; n++) {
    const kept = `${folder} (not of Bijou${n > 1 ? ` ${n}` : ''})`;
    if (await isThere(kept)) continue;
    await rename(old, kept);
    return kept;
  }
}

function unlessFull(error: NodeJS.ErrnoException): void {
  if (!['ENOTEMPTY', 'EEXIST', 'ENOENT'].includes(error.code ?? '')) throw error;
}

async function stampOf(path: string): Promise<string> {
  const found = await whatIsAt(path);
  return found ? `${found.ino} ${found.size} ${found.mtimeMs} ${found.ctimeMs}` : '';
}

function notPutBack(folder: string): BijouError {
  return new BijouError(
    'disk',
    `"${folder}" could not be exchanged, nor put back: what it held lies in "${oldOf(folder)}".`,
    'The next call puts it back. Check the disk, and that nobody else writes there.',
  );
}

function refusal(message: string, hint: string): BijouError {
  return new BijouError('not-allowed', message, hint);
}
