import type { Choices } from '@/core/brief/choices';
import type { Assignment, BuildSummary } from '@/wire';
import type { Db } from './open';

/** Which file of which assignment is, or is to be, which encoding. */
export interface OutputRow {
  id: number;
  buildId: number;
  assignmentId: number;
  fileId: string;
  encodingId: number;
  /** As it lay at its destination when it was built; null in builds of an older Bijou. */
  path: string | null;
}

/** One run of building. */
export interface BuildRow {
  id: number;
  projectId: number;
  createdAt: string;
}

/** What came of a build. */
type BuildSums = Omit<BuildSummary, 'id' | 'createdAt'>;

/** Builds of a project that are kept beside what is newest of each file. */
const MOST_BUILDS = 20;

type StoredAssignment = Omit<Assignment, 'choices'> & { choices: string; sent: 0 | 1 };

function revive({ id, soundId, briefId, choices }: StoredAssignment): Assignment {
  // Most have none.
  const chosen = choices === '{}' ? {} : (JSON.parse(choices) as Choices);
  return { id, soundId, briefId, choices: chosen };
}

/** Where a sound is sent, with what was chosen for it there, by brief. */
export type Sent = Record<string, Choices>;

/** Statements on where sounds are sent. What is not sent any more is kept, with what was built for it. */
export function sendingStatements(db: Db) {
  const ofSound = db.prepare<[number], Pick<StoredAssignment, 'briefId' | 'choices'>>(
    'SELECT briefId, choices FROM assignments WHERE soundId = ? AND sent = 1 ORDER BY briefId',
  );
  const send = db.prepare<[number, string, string]>(
    `INSERT INTO assignments (soundId, briefId, choices) VALUES (?, ?, ?)
     ON CONFLICT (soundId, briefId) DO UPDATE SET choices = excluded.choices, sent = 1`,
  );
  const keep = db.prepare<[number, string]>(
    `UPDATE assignments SET sent = 0
     WHERE soundId = ? AND sent = 1 AND briefId NOT IN (SELECT value FROM json_each(?))`,
  );
  const dropUnfinished = db.prepare<[number]>(
    `DELETE FROM outputs
     WHERE assignmentId IN (SELECT id FROM assignments WHERE soundId = ? AND sent = 0)
       AND (SELECT state FROM encodings WHERE id = encodingId) <> 'done'`,
  );
  return {
    of: (soundId: number): Sent =>
      Object.fromEntries(
        ofSound
          .all(soundId)
          .map(({ briefId, choices }) => [briefId, JSON.parse(choices) as Choices]),
      ),
    set(soundId: number, sent: Sent): void {
      keep.run(soundId, JSON.stringify(Object.keys(sent)));
      dropUnfinished.run(soundId);
      for (const [briefId, choices] of Object.entries(sent)) {
        send.run(soundId, briefId, JSON.stringify(choices));
      }
    },
  };
}

/** Statements on assignments, builds and outputs. */
export function packStatements(db: Db) {
  const assignments = db.prepare<[number], StoredAssignment>(
    `SELECT assignments.* FROM assignments JOIN sounds ON sounds.id = assignments.soundId
     WHERE sounds.projectId = ? AND sounds.removedAt IS NULL AND sent = 1 ORDER BY assignments.id`,
  );
  const ofSounds = db.prepare<[string], StoredAssignment>(
    `SELECT assignments.* FROM assignments JOIN sounds ON sounds.id = assignments.soundId
     WHERE soundId IN (SELECT value FROM json_each(?)) AND sounds.removedAt IS NULL AND sent = 1
     ORDER BY assignments.id`,
  );
  const byIds = db.prepare<[string], StoredAssignment>(
    'SELECT * FROM assignments WHERE id IN (SELECT value FROM json_each(?)) AND sent = 1 ORDER BY id',
  );
  const dropReleased = db.prepare<[number]>(
    `DELETE FROM assignments
     WHERE sent = 0 AND soundId IN (SELECT id FROM sounds WHERE projectId = ?)`,
  );
  const addBuild = db.prepare<[number, string]>(
    'INSERT INTO builds (projectId, createdAt) VALUES (?, ?)',
  );
  const addOutput = db.prepare<[Omit<OutputRow, 'id'>]>(
    `INSERT INTO outputs (buildId, assignmentId, fileId, encodingId, path)
     VALUES (@buildId, @assignmentId, @fileId, @encodingId, @path)`,
  );
  const output = db.prepare<[number], OutputRow & { projectId: number }>(
    'SELECT outputs.*, projectId FROM outputs JOIN builds ON builds.id = buildId WHERE outputs.id = ?',
  );
  // Those of an assignment lie together in the index: the newest of each file is found without reading the others.
  const latest = db.prepare<[string], OutputRow>(
    `SELECT * FROM outputs WHERE id IN (
       SELECT max(id) FROM outputs
       WHERE assignmentId IN (SELECT value FROM json_each(?)) GROUP BY assignmentId, fileId)
     ORDER BY id`,
  );
  const dropSuperseded = db.prepare(
    `DELETE FROM outputs WHERE id < (
       SELECT max(id) FROM outputs AS newer
       WHERE newer.assignmentId = outputs.assignmentId AND newer.fileId = outputs.fileId)
       AND buildId NOT IN (
         SELECT id FROM (
           SELECT id, row_number() OVER (PARTITION BY projectId ORDER BY id DESC) AS place FROM builds)
         WHERE place <= ${MOST_BUILDS})`,
  );
  const builds = db.prepare<[number], BuildRow>(
    'SELECT id, projectId, createdAt FROM builds WHERE projectId = ? ORDER BY id DESC',
  );
  const build = db.prepare<[number], BuildRow>(
    'SELECT id, projectId, createdAt FROM builds WHERE id = ?',
  );
  const knownSums = db
    .prepare<[number], string | null>('SELECT sums FROM builds WHERE id = ?')
    .pluck();
  const setSums = db.prepare<[string, number]>('UPDATE builds SET sums = ? WHERE id = ?');
  const sums = db.prepare<[number], BuildSums>(
    `SELECT count(*) AS files, count(*) FILTER (WHERE encodings.state = 'done') AS done,
       count(*) FILTER (WHERE encodings.state = 'failed') AS failed,
       count(*) FILTER (WHERE encodings.state IN ('queued', 'running')) AS open,
       coalesce(sum(encodings.bytes) FILTER (WHERE encodings.state = 'done'), 0) AS bytes,
       coalesce(sum(sources.bytes) FILTER (WHERE encodings.state = 'done'), 0) AS sourceBytes
     FROM outputs JOIN encodings ON encodings.id = encodingId JOIN assignments ON assignments.id = assignmentId
       JOIN sounds ON sounds.id = soundId JOIN sources ON sources.sha256 = sourceSha256
     WHERE buildId = ?`,
  );
  const outputsOf = db.prepare<[number], OutputRow & { soundId: number; briefId: string }>(
    `SELECT outputs.*, soundId, briefId FROM outputs JOIN assignments ON assignments.id = assignmentId
     WHERE buildId = ? ORDER BY outputs.id`,
  );
  const dropEarlier = db.prepare<[number]>(
    `DELETE FROM outputs WHERE buildId IN (SELECT id FROM builds WHERE projectId = ?) AND id < (
       SELECT max(id) FROM outputs AS newer
       WHERE newer.assignmentId = outputs.assignmentId AND newer.fileId = outputs.fileId)`,
  );
  const dropBuilds = db.prepare(
    `DELETE FROM builds WHERE NOT EXISTS (SELECT 1 FROM outputs WHERE buildId = builds.id)
       AND NOT EXISTS (SELECT 1 FROM orders WHERE buildId = builds.id)`,
  );
  return {
    assignments: (projectId: number) => assignments.all(projectId).map(revive),
    assignmentsOf: (soundIds: readonly number[]) =>
      ofSounds.all(JSON.stringify(soundIds)).map(revive),
    /** Those of some that are sent. */
    assignmentsById: (ids: readonly number[]) => byIds.all(JSON.stringify(ids)).map(revive),
    /** Forgets what is not sent any more, with what was built for it. */
    dropReleased: (projectId: number) => void dropReleased.run(projectId),
    addBuild: (projectId: number) =>
      Number(addBuild.run(projectId, new Date().toISOString()).lastInsertRowid),
    addOutput: (row: Omit<OutputRow, 'id'>) => void addOutput.run(row),
    /** The builds of a project that are kept, newest first. */
    builds: (projectId: number) => builds.all(projectId),
    buildById: (id: number) => build.get(id),
    /** What came of a build. It is counted once, until something of it changes. */
    sums(buildId: number): BuildSums {
      const known = knownSums.get(buildId);
      if (known != null) return JSON.parse(known) as BuildSums;
      const counted = sums.get(buildId)!;
      setSums.run(JSON.stringify(counted), buildId);
      return counted;
    },
    /** The files of one build, with what they were built for. */
    outputsOf: (buildId: number) => outputsOf.all(buildId),
    /** With the project that it was built for. */
    output: (id: number) => output.get(id),
    /** The newest output of every file of some assignments. */
    latestOutputs: (assignmentIds: readonly number[]) => latest.all(JSON.stringify(assignmentIds)),
    /** Forgets everything in the builds of a project that a newer one has taken the place of. Answers how many go. */
    dropEarlier(projectId: number): number {
      dropEarlier.run(projectId);
      return dropBuilds.run().changes;
    },
    dropEmptyBuilds: () => void dropBuilds.run(),
    /** Forgets outputs that a newer one has taken the place of in all builds that are kept, and empty builds. */
    dropSuperseded(): void {
      dropSuperseded.run();
      dropBuilds.run();
    },
  };
}
