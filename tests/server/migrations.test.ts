import { join } from 'node:path';
import Database from 'better-sqlite3';
import { migrations } from '@/server/db/migrations';
import { migrate, openDatabase } from '@/server/db/open';
import { cleanUp, temporaryFolder } from './folder';

afterAll(cleanUp);

test('a fresh database is brought to the newest version, in WAL, with foreign keys on', async () => {
  const path = join(await temporaryFolder(), 'a.db');
  const db = openDatabase(path);
  expect(db.pragma('user_version', { simple: true })).toBe(migrations.length);
  expect(db.pragma('journal_mode', { simple: true })).toBe('wal');
  expect(() =>
    db.exec(`INSERT INTO assignments (soundId, briefId) VALUES (99, 'web-page')`),
  ).toThrow(/FOREIGN KEY/);
  db.close();
  const again = openDatabase(path);
  expect(again.pragma('user_version', { simple: true })).toBe(migrations.length);
  again.close();
});

test('a migration that fails leaves nothing of itself behind', () => {
  const db = new Database(':memory:');
  const good = 'CREATE TABLE a (x)';
  expect(() => migrate(db, [good, 'CREATE TABLE b (x); CREATE TABLE b (x)'])).toThrow(
    /already exists/,
  );
  expect(db.pragma('user_version', { simple: true })).toBe(1);
  expect(db.prepare("SELECT name FROM sqlite_master WHERE type = 'table'").pluck().all()).toEqual([
    'a',
  ]);
  migrate(db, [good, 'CREATE TABLE b (x)']);
  expect(db.pragma('user_version', { simple: true })).toBe(2);
});

test('a database of a newer version is left alone', () => {
  const db = new Database(':memory:');
  db.pragma('user_version = 99');
  expect(() => migrate(db, migrations)).toThrow(/newer Bijou/);
});
