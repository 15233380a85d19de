import { rmSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { BijouError } from '@/core/errors';

/**
 * Makes this process the only one that works in a data folder: two would empty each other's `tmp/` and
 * take each other's jobs. The lock is one that the system holds on a small file and takes back when the
 * process ends, however it ends; numbers of processes, which containers share, play no part. Answers how
 * to let go again.
 * @throws not-allowed when another process holds it.
 */
export function lockFolder(dataDir: string): () => void {
  const lock = new Database(join(dataDir, 'lock.db'), { timeout: 0 });
  try {
    // A journal beside it would be one more file to be left behind.
    lock.pragma('journal_mode = MEMORY');
    lock.exec('BEGIN EXCLUSIVE');
  } catch (error) {
    lock.close();
    if (!String((error as { code?: unknown }).code).startsWith('SQLITE_BUSY')) throw error;
    throw new BijouError(
      'not-allowed',
      `Another Bijou is using the data folder ${dataDir}.`,
      'End it first, or point BIJOU_DATA to another folder.',
    );
  }
  // What versions before this one locked with.
  rmSync(join(dataDir, 'bijou.lock'), { force: true });
  return () => void lock.close();
}
