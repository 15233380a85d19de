import { readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { changeStatements } from '@/server/db/changes';
import { intakeStatements } from '@/server/db/intakes';
import { migrations } from '@/server/db/migrations';
import { migrate, openDatabase } from '@/server/db/open';
import { soundStatements } from '@/server/db/sounds';
import { sourceStatements } from '@/server/db/sources';
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

test('sounds that were read before are measured anew, and stay usable meanwhile', () => {
  const db = new Database(':memory:');
  migrate(db, migrations.slice(0, 1));
  db.exec(`
    INSERT INTO projects (id, name, createdAt) VALUES (1, 'Skerry', '');
    INSERT INTO sources (sha256, bytes, facts) VALUES ('ab', 9, '{"container":"wav","frames":5}');
    INSERT INTO sounds (projectId, name, fileName, sourceSha256, recipe, state, addedAt)
      VALUES (1, 'bell', 'bell.wav', 'ab', '{"version":1,"steps":[]}', 'ready', ''),
             (1, 'bad', 'bad.wav', 'ab', '{"version":1,"steps":[]}', 'refused', '');
  `);
  migrate(db, migrations);
  expect(db.prepare('SELECT kind, subjectId, state FROM jobs').all()).toEqual([
    { kind: 'read', subjectId: 1, state: 'queued' },
  ]);
  const [sound] = soundStatements(db).ofProject(1);
  expect(sound).toMatchObject({
    state: 'ready',
    raw: null,
    facts: { container: 'wav', frames: 5, lufs: null, tags: {} },
  });
});

test('what was refused before there was a record of arrivals keeps its mention; spectra move out of lists', () => {
  const db = new Database(':memory:');
  migrate(db, migrations.slice(0, 2));
  db.exec(`
    INSERT INTO projects (id, name, createdAt) VALUES (1, 'Skerry', '');
    INSERT INTO sources (sha256, bytes, facts) VALUES
      ('ab', 9, '{"container":"wav","frames":5,"spectrum":{"hz":[20],"levelsDb":[-9]}}'), ('cd', 7, null);
    INSERT INTO sounds (projectId, name, fileName, sourceSha256, recipe, state, error, addedAt) VALUES
      (1, 'bell', 'bell.wav', 'ab', '{"version":1,"steps":[]}', 'ready', null, ''),
      (1, 'bad', 'bad.wav', 'cd', '{"version":1,"steps":[]}', 'refused',
        '{"code":"not-audio","message":"No.","hint":""}', '');
  `);
  migrate(db, migrations);
  expect(intakeStatements(db).summary(1)).toMatchObject({
    counts: { failed: 1 },
    shown: [{ path: 'bad.wav', bytes: 7, error: { code: 'not-audio' } }],
  });
  expect(sourceStatements(db).thumbnails(1, [1])).toEqual([{ id: 1, thumbnail: null }]);
  expect(sourceStatements(db).spectrumOf('ab')).toEqual({ hz: [20], levelsDb: [-9] });
  expect(soundStatements(db).byId(1)!.facts).not.toHaveProperty('spectrum');
  expect(soundStatements(db).byId(1)).toMatchObject({ group: '', labels: [] });
});

test('what was undone before sounds had a history each is still undone, and can be done again', () => {
  const db = new Database(':memory:');
  migrate(db, migrations.slice(0, 3));
  db.exec(`
    INSERT INTO projects (id, name, createdAt) VALUES (1, 'Skerry', '');
    INSERT INTO sources (sha256, bytes, facts) VALUES ('ab', 9, '{"container":"wav","frames":5}');
    INSERT INTO sounds (id, projectId, name, fileName, sourceSha256, recipe, state, addedAt) VALUES
      (1, 1, 'a', 'a.wav', 'ab', '{"version":1,"steps":[]}', 'ready', ''),
      (2, 1, 'b', 'b.wav', 'ab', '{"version":1,"steps":[]}', 'ready', '');
    INSERT INTO changes (id, projectId, title, madeAt, undone) VALUES
      (1, 1, 'Group 2 sounds', '', 0), (2, 1, 'Rename “a”', '', 1);
    INSERT INTO changedSounds (changeId, soundId, before, after) VALUES
      (1, 1, '{}', '{}'), (1, 2, '{}', '{}'), (2, 1, '{"name":"a"}', '{"name":"c"}');
  `);
  migrate(db, migrations);
  const changes = changeStatements(db);
  expect(changes.titles(1)).toEqual({
    undo: { id: 1, title: 'Group 2 sounds' },
    redo: { id: 2, title: 'Rename “a”' },
  });
  expect(changes.ofSound(1).map(({ undone }) => undone)).toEqual([false, true]);
  expect(soundStatements(db).byId(1)).toMatchObject({ tempo: null, join: null, joined: null });
});

test('before a database is brought to a newer version it is copied, and the last three copies stay', async () => {
  const folder = await temporaryFolder();
  const path = join(folder, 'bijou.db');
  for (let round = 0; round < 5; round++) {
    rmSync(path, { force: true });
    const old = new Database(path);
    migrate(old, migrations.slice(0, 4));
    old.exec(`INSERT INTO projects (name, createdAt) VALUES ('Skerry ${round}', '')`);
    old.close();
    openDatabase(path).close();
    // A database that is as new as can be is not copied.
    openDatabase(path).close();
  }
  const copies = readdirSync(join(folder, 'backups')).sort();
  expect(copies).toHaveLength(3);
  const last = new Database(join(folder, 'backups', copies[2]!), { readonly: true });
  expect(last.pragma('user_version', { simple: true })).toBe(4);
  expect(last.prepare('SELECT name FROM projects').pluck().all()).toEqual(['Skerry 4']);
  last.close();
});

test('jobs that are still to be done go on; those that have ended are rows no more', () => {
  const db = new Database(':memory:');
  migrate(db, migrations.slice(0, 4));
  db.exec(`
    INSERT INTO projects (id, name, createdAt) VALUES (1, 'Skerry', '');
    INSERT INTO jobs (projectId, kind, subjectId, state, createdAt) VALUES
      (1, 'read', 1, 'done', ''), (1, 'read', 2, 'running', ''), (1, 'build', 3, 'queued', '');
  `);
  migrate(db, migrations.slice(0, 5));
  const jobs = db.prepare('SELECT id, kind, subjectId, state FROM jobs').all();
  expect(jobs).toEqual([
    { id: 2, kind: 'read', subjectId: 2, state: 'running' },
    { id: 3, kind: 'build', subjectId: 3, state: 'queued' },
  ]);
});

test('finished files and what was built of them stay; what was still to be built waits for the button', () => {
  const db = new Database(':memory:');
  migrate(db, migrations.slice(0, 5));
  db.exec(`
    INSERT INTO projects (id, name, createdAt) VALUES (1, 'Skerry', '');
    INSERT INTO sources (sha256, bytes) VALUES ('s', 1);
    INSERT INTO sounds (id, projectId, name, fileName, sourceSha256, recipe, state, addedAt)
      VALUES (1, 1, 'bell', 'bell.wav', 's', '{}', 'ready', '');
    INSERT INTO assignments (id, soundId, briefId) VALUES (1, 1, 'web-page'), (2, 1, 'archive');
    INSERT INTO builds (id, projectId, createdAt) VALUES (1, 1, '');
    INSERT INTO encodings (outputKey, sha256, verification, warnings) VALUES ('k1', 'f1', '{"ok":true}', '[]');
    INSERT INTO outputs (id, buildId, assignmentId, fileId, outputKey, name, state, error) VALUES
      (1, 1, 1, 'ogg', 'k1', 'bell.ogg', 'done', NULL),
      (2, 1, 1, 'mp3', 'k2', 'bell.mp3', 'queued', NULL),
      (3, 1, 2, 'flac', 'k3', 'bell.flac', 'failed', '{"code":"disk"}');
    INSERT INTO jobs (projectId, kind, subjectId, state, createdAt) VALUES (1, 'build', 2, 'queued', '');
  `);
  migrate(db, migrations);
  const rows = db
    .prepare(
      `SELECT outputs.id, fileId, key, state, error, sha256 FROM outputs JOIN encodings ON encodings.id = encodingId
       ORDER BY outputs.id`,
    )
    .all();
  expect(rows).toEqual([
    { id: 1, fileId: 'ogg', key: 'k1', state: 'done', error: null, sha256: 'f1' },
    { id: 2, fileId: 'mp3', key: 'k2', state: 'cancelled', error: null, sha256: null },
    { id: 3, fileId: 'flac', key: 'k3', state: 'failed', error: '{"code":"disk"}', sha256: null },
  ]);
  expect(db.prepare('SELECT count(*) FROM jobs').pluck().get()).toBe(0);
  expect(db.pragma('foreign_key_check')).toEqual([]);
  // What happens to a file is to be worked out for what wants it.
  db.exec("DELETE FROM staleCells; UPDATE encodings SET state = 'running' WHERE key = 'k2'");
  expect(db.prepare('SELECT id, depth FROM staleCells').all()).toEqual([{ id: 1, depth: 1 }]);
});
