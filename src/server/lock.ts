import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { BijouError } from '@/core/errors';

/**
 * Makes this process the only one that works in a data folder: two would empty each other's `tmp/` and
 * take each other's jobs. A lock whose process has died is taken over. Answers how to let go again.
 * @throws not-allowed when another process holds it.
 */
export function lockFolder(dataDir: string): () => void {
  const path = join(dataDir, 'bijou.lock');
  const holder = Number(readIfThere(path));
  if (holder > 0 && holder !== process.pid && isAlive(holder)) {
    throw new BijouError(
      'not-allowed',
      `Another Bijou (process ${holder}) is using the data folder ${dataDir}.`,
      `End it first, or point BIJOU_DATA to another folder. If there is none, remove ${path}.`,
    );
  }
  writeFileSync(path, String(process.pid));
  return () => {
    if (Number(readIfThere(path)) === process.pid) rmSync(path, { force: true });
  };
}

function readIfThere(path: string): string {
  try {
    return readFileSync(path, 'utf8');
  } catch {
    return '';
  }
}

function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    // It exists, but belongs to somebody else.
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}
