import { open, readFile, rename, rm, stat } from 'node:fs/promises';
import { dirname } from 'node:path';
import { BijouError } from '@/core/errors';
import {
  dropTemporary,
  isRunning,
  letGo,
  temporaryIn,
  thisProcess,
  untilTheEnd,
} from './temporaries';

const LOOK_EVERY_MS = 40;
/** Longest that a call waits for another one. */
const PATIENCE_MS = 30_000;
/** One without a word in it for so long was left by a call that was ended while it wrote. */
const MUTE_MS = 5_000;

/**
 * Does something while no other call does anything under the same lock. One that a dead process of this machine left is
 * taken away. @throws not-allowed when another call keeps it for long, and what the file system says
 */
export async function withLock<T>(path: string, work: () => Promise<T>): Promise<T> {
  await take(path);
  try {
    return await work();
  } finally {
    await rm(path, { force: true });
    letGo(path);
  }
}

async function take(path: string): Promise<void> {
  const until = performance.now() + PATIENCE_MS;
  while (!(await isTaken(path))) {
    if (await isLeft(path)) await clear(path);
    else if (performance.now() > until) throw inUse(path);
    else await new Promise((resume) => setTimeout(resume, LOOK_EVERY_MS));
  }
}

async function isTaken(path: string): Promise<boolean> {
  try {
    const file = await open(path, 'wx');
    untilTheEnd(path);
    await file.writeFile(JSON.stringify(thisProcess)).finally(() => file.close());
    return true;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'EEXIST') return false;
    throw error;
  }
}

/** Takes away one that was left, and nothing that was put there meanwhile. */
async function clear(path: string): Promise<void> {
  const aside = temporaryIn(dirname(path));
  try {
    await rename(path, aside);
    if (!(await isLeft(aside))) await rename(aside, path);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
  } finally {
    await dropTemporary(aside);
  }
}

async function isLeft(path: string): Promise<boolean> {
  try {
    const text = await readFile(path, 'utf8');
    if (text === '') return Date.now() - (await stat(path)).mtimeMs > MUTE_MS;
    const { pid, machine } = JSON.parse(text) as typeof thisProcess;
    return machine === thisProcess.machine && typeof pid === 'number' && !isRunning(pid);
  } catch {
    return false;
  }
}

function inUse(path: string): BijouError {
  return new BijouError(
    'not-allowed',
    'Another call of Bijou is writing at the same place.',
    `Wait for it. If there is none, remove "${path}".`,
  );
}
