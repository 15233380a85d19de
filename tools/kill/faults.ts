import { execFileSync, spawn } from 'node:child_process';
import { once } from 'node:events';
import { closeSync, openSync, rmSync, writeSync } from 'node:fs';
import { mkdir, rename, rm, stat } from 'node:fs/promises';
import { join, resolve } from 'node:path';

/** What may come over a call of the command line, and how it is taken away again. */
export interface Fault {
  name: string;
  /** Answers what undoes it; null where it could not be done just then. */
  strike(place: Place): Promise<(() => Promise<void>) | null>;
}

/** Where a call writes, and who does it. */
interface Place {
  /** The folder in which everything lies: a disk of its own where that can be had. */
  disk: string;
  /** Of the call. */
  pid: number;
}

export const killed: Fault = {
  name: 'killed',
  async strike({ pid }) {
    process.kill(pid, 'SIGKILL');
    return async () => undefined;
  },
};

export const stopped: Fault = {
  name: 'stopped',
  async strike({ pid }) {
    process.kill(pid, 'SIGTERM');
    return async () => undefined;
  },
};

/** Somebody else takes all the room that is left. */
export const full: Fault = {
  name: 'full disk',
  async strike({ disk }) {
    const filler = join(disk, '..', 'disk', 'filler');
    const file = openSync(filler, 'w');
    const piece = new Uint8Array(1 << 16);
    try {
      for (;;) writeSync(file, piece);
    } catch {
      // Full.
    } finally {
      closeSync(file);
    }
    return async () => rmSync(filler, { force: true });
  },
};

/** Nothing can be written from here on. While somebody writes, the system refuses that. */
export const readOnly: Fault = {
  name: 'read-only disk',
  async strike({ disk }) {
    try {
      execFileSync('mount', ['-o', 'remount,ro', disk], { stdio: 'ignore' });
    } catch {
      return null;
    }
    return async () => {
      execFileSync('mount', ['-o', 'remount,rw', disk], { stdio: 'ignore' });
    };
  },
};

/** The folder for the results has another name all at once. */
export const vanished: Fault = {
  name: 'vanished target',
  async strike({ disk }) {
    const [there, gone] = [join(disk, 'results'), join(disk, 'gone')];
    await rename(there, gone);
    return async () => {
      // What the call has made anew holds nothing but its own.
      await rm(there, { recursive: true, force: true });
      await rename(gone, there);
    };
  },
};

/** A disk of so many megabytes; false where mounting is not allowed. */
export async function mounted(at: string, megabytes: number): Promise<boolean> {
  await mkdir(at, { recursive: true });
  try {
    const size = `size=${megabytes}m`;
    execFileSync('mount', ['-t', 'tmpfs', '-o', size, 'tmpfs', at], { stdio: 'ignore' });
    return true;
  } catch {
    return false;
  }
}

export function unmounted(at: string): void {
  execFileSync('umount', [at], { stdio: 'ignore' });
}

/** A call of the command line that is struck after so many milliseconds, and what became of it. */
export async function struck(
  dataDir: string,
  disk: string,
  args: readonly string[],
  fault: Fault | null,
  afterMs: number,
): Promise<{ status: number | null; err: string; name: string }> {
  const child = spawn(process.execPath, [resolve('bin/bijou'), ...args], {
    cwd: disk,
    env: { ...process.env, BIJOU_DATA: dataDir },
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  let err = '';
  child.stderr.setEncoding('utf8').on('data', (text: string) => (err += text));
  const ended = once(child, 'close');
  let undo: (() => Promise<void>) | null = null;
  if (fault) {
    await Promise.race([ended, new Promise((resume) => setTimeout(resume, afterMs))]);
    const isRunning = child.exitCode === null && child.signalCode === null;
    if (isRunning && child.pid !== undefined) {
      undo = await fault.strike({ disk, pid: child.pid }).catch(() => null);
    }
  }
  const [status] = (await ended) as [number | null];
  await undo?.();
  return { status, err, name: undo ? fault!.name : 'nothing' };
}

/** Whether something has that name. */
export const isThere = (path: string): Promise<boolean> =>
  stat(path).then(
    () => true,
    () => false,
  );
