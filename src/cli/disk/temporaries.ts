import { createHash, randomUUID } from 'node:crypto';
import { rmSync } from 'node:fs';
import { mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { hostname, tmpdir } from 'node:os';
import { join } from 'node:path';
import { BijouError } from '@/core/errors';
import { fileTrouble } from './trouble';

/** Which machine this is: whether a process of another one still runs, nobody here knows. */
const MACHINE = createHash('sha256').update(hostname()).digest('hex').slice(0, 8);
const NAME = /^\.bijou-(\d+)-([0-9a-f]{8})-([0-9a-f-]{36})\.part(?:-scratch)?$/;
/** In every folder of ours, with its own name: a folder without it is somebody else’s, whatever it is called. */
const MARK = '.bijou-work';

/** What goes with this process, however it ends. */
const unfinished = new Set<string>();
process.once('exit', () => {
  for (const path of unfinished) removeNow(path);
});

/** A new name in a folder for what is not finished. It is gone at the end, at the latest with this process. */
export function temporaryIn(folder: string): string {
  const path = join(folder, `.bijou-${process.pid}-${MACHINE}-${randomUUID()}.part`);
  unfinished.add(path);
  return path;
}

/** Has a path removed with this process, if it has not been let go before. */
export function untilTheEnd(path: string): void {
  unfinished.add(path);
}

/** Makes a folder for what is not finished, below another one. @throws what the file system says */
export async function workFolderIn(folder: string): Promise<string> {
  const path = temporaryIn(folder);
  await mkdir(path);
  await writeFile(join(path, MARK), markOf(path));
  return path;
}

/** The same in the system’s folder for temporary files. @throws not-allowed */
export async function systemWorkFolder(): Promise<string> {
  const folder = tmpdir();
  try {
    await clearDead(folder);
    return await workFolderIn(folder);
  } catch (error) {
    throw new BijouError(
      'not-allowed',
      `The folder for temporary files, "${folder}", cannot be written to (${whyNot(error as NodeJS.ErrnoException)}).`,
      'Set TMPDIR to a folder that can.',
    );
  }
}

/** Removes what is not finished. */
export async function dropTemporary(path: string): Promise<void> {
  await rm(path, { recursive: true, force: true });
  unfinished.delete(path);
}

/** Leaves to somebody else what had a temporary name. */
export function letGo(path: string): void {
  unfinished.delete(path);
}

/** Removes everything that is not finished, for the end of a call in a process that goes on. */
export async function dropAllTemporaries(): Promise<void> {
  for (const path of unfinished) await dropTemporary(path).catch(() => undefined);
}

/** Removes from a folder what calls of this machine left unfinished that are no more. */
export async function clearDead(folder: string): Promise<void> {
  const entries = await readdir(folder, { withFileTypes: true }).catch(() => []);
  for (const entry of entries) {
    const [, pid, machine] = NAME.exec(entry.name) ?? [];
    if (machine !== MACHINE || isRunning(Number(pid))) continue;
    const path = join(folder, entry.name);
    if (entry.isDirectory() ? await isOurs(path) : entry.isFile()) {
      await rm(path, { recursive: true, force: true }).catch(() => undefined);
    }
  }
}

/** Whether a process of this machine is at work. */
export function isRunning(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}

/** Which process of which machine this is, for others to ask about. */
export const thisProcess = { pid: process.pid, machine: MACHINE };

async function isOurs(path: string): Promise<boolean> {
  const [inside, ...more] = await readdir(path).catch(() => ['?']);
  // Nothing in it: its maker was ended before the mark was there.
  if (inside === undefined) return true;
  if (inside !== MARK && !more.includes(MARK)) return false;
  return (await readFile(join(path, MARK), 'utf8').catch(() => '')) === markOf(path);
}

const whyNot = (error: NodeJS.ErrnoException) =>
  error.code === 'ENOENT' ? 'it is not there' : fileTrouble(error);

const markOf = (path: string) => path.slice(path.lastIndexOf('.bijou-'));

function removeNow(path: string): void {
  try {
    rmSync(path, { recursive: true, force: true });
    rmSync(`${path}-scratch`, { force: true });
  } catch {
    // A later call clears it away.
  }
}
