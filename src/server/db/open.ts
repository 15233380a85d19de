import Database from 'better-sqlite3';
import { BijouError } from '@/core/errors';
import { migrations } from './migrations';

export type Db = Database.Database;

/** Opens the database and brings it to the newest version, each migration whole or not at all. */
export function openDatabase(path: string): Db {
  const db = new Database(path);
  db.pragma('journal_mode = WAL');
  db.pragma('foreign_keys = ON');
  db.pragma('busy_timeout = 5000');
  migrate(db, migrations);
  return db;
}

export function migrate(db: Db, all: readonly string[]): void {
  const version = db.pragma('user_version', { simple: true }) as number;
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
