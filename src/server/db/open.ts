import {
  accessSync,
  closeSync,
  constants,
  fsyncSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
} from 'node:fs';
import { dirname, join } from 'node:path';
import Database from 'better-sqlite3';
import { BijouError } from '@/core/errors';
import { migrations } from './migrations';

export type Db = Database.Database;

/** Copies of the database that are kept from before it was brought to a newer version. */
const MOST_BACKUPS = 3;

/**
 * Opens the database and brings it to the newest version, each migration whole or not at all. What is
 * said to be done has been written to the disk: a power cut takes nothing of it back.
 */
export function openDatabase(path: string): Db {
  const db = opened(path);
  try {
    db.pragma('journal_mode = WAL');
    db.pragma('synchronous = FULL');
    db.pragma('foreign_keys = ON');
    db.pragma('busy_timeout = 5000');
    if (versionOf(db) > 0 && versionOf(db) < migrations.length) backUp(db, dirname(path));
    const isOld = versionOf(db) < migrations.length;
    migrate(db, migrations);
    // What the migrations wrote stands twice until it is taken over: room that a small disk needs for sounds.
    if (isOld) db.pragma('wal_checkpoint(TRUNCATE)');
    return db;
  } catch (error) {
    db.close();
    throw error;
  }
}

function opened(path: string, options?: Database.Options): Db {
  try {
    return new Database(path, options);
  } catch (error) {
    throw nodeVersionFault(error) ?? error;
  }
}

/** The database's binary is made for one version of Node: what it means that it does not fit; null for anything else. */
export function nodeVersionFault(error: unknown): BijouError | null {
  const { code, message = '' } = (error ?? {}) as { code?: string; message?: string };
  const isOther = code === 'ERR_DLOPEN_FAILED' && message.includes('NODE_MODULE_VERSION');
  if (!isOther && !message.includes('Could not locate the bindings file')) return null;
  return new BijouError(
    'wrong-call',
    `The database module was built for another version of Node than this one (${process.version}).`,
    'Run `npm rebuild better-sqlite3` in the folder of Bijou.',
  );
}

/**
 * Opens a database that somebody else may be writing to, and changes nothing in it.
 * @throws not-allowed when it is of another version, or cannot be opened
 */
export function openToRead(path: string): Db {
  const db = openedToRead(path);
  const version = versionOf(db);
  if (version === migrations.length) return db;
  db.close();
  const isOlder = version < migrations.length;
  throw new BijouError(
    'not-allowed',
    `The data folder is of ${isOlder ? 'an older' : 'a newer'} Bijou (version ${version} of its database).`,
    isOlder ? 'Start this Bijou once: it brings the folder up to date.' : 'Use that newer Bijou.',
  );
}

function openedToRead(path: string): Db {
  try {
    const db = opened(path, { readonly: true });
    db.pragma('busy_timeout = 5000');
    versionOf(db);
    return db;
  } catch (error) {
    const { code = '' } = error as { code?: string };
    // Readers share a small file beside it, which cannot be made on a read-only disk: nobody writes there either.
    if (code === 'SQLITE_CANTOPEN' && !canWrite(dirname(path))) {
      return new Database(withoutLog(path));
    }
    if (!/^SQLITE_(CANTOPEN|NOTADB|CORRUPT|IOERR)/.test(code)) throw error;
    throw new BijouError(
      'not-allowed',
      `The database "${path}" cannot be read.`,
      'See whether it is whole, and what its permissions are.',
    );
  }
}

function canWrite(folder: string): boolean {
  try {
    accessSync(folder, constants.W_OK);
    return true;
  } catch {
    return false;
  }
}

/** The bytes of a database whose log of changes is empty, as of one that keeps none. */
function withoutLog(path: string): Buffer {
  if (statSync(`${path}-wal`, { throwIfNoEntry: false })?.size) {
    throw new BijouError(
      'not-allowed',
      'The data folder was not closed, and lies on a disk that is read-only.',
      'Copy it to another disk, and point BIJOU_DATA there.',
    );
  }
  const bytes = readFileSync(path);
  // Versions of the file format for writing and reading: 1 has no log (SQLite database file format, 1.3.3).
  bytes[18] = bytes[19] = 1;
  return bytes;
}

const versionOf = (db: Db) => db.pragma('user_version', { simple: true }) as number;

export function migrate(db: Db, all: readonly string[]): void {
  const version = versionOf(db);
  if (version > all.length) {
    throw new BijouError(
      'internal',
      `The data folder was made by a newer Bijou (version ${version} of its database).`,
      'Start the newer Bijou, or point BIJOU_DATA to another folder.',
    );
  }
  all.slice(version).forEach((sql, i) => {
    db.transaction(() => {
      db.exec(sql);
      db.pragma(`user_version = ${version + i + 1}`);
    }).immediate();
  });
}

/** Copies the database into `backups/` beside it; of such copies the newest stay. */
function backUp(db: Db, dataDir: string): void {
  const folder = join(dataDir, 'backups');
  mkdirSync(folder, { recursive: true });
  const time = new Date().toISOString().replaceAll(/[:.]/g, '-');
  const name = `${time} version ${versionOf(db)}.db`;
  db.prepare('VACUUM INTO ?').run(join(folder, name));
  const copy = openSync(join(folder, name), 'r+');
  fsyncSync(copy);
  closeSync(copy);
  const copies = readdirSync(folder).filter((file) => file.endsWith('.db'));
  for (const old of copies.sort().slice(0, -MOST_BACKUPS)) rmSync(join(folder, old));
}
