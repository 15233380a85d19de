import type { Choices } from '@/core/brief/plan';
import type { Assignment } from '@/wire';
import type { Db } from './open';

/** Which file of which assignment is, or is to be, which encoding. */
export interface OutputRow {
  id: number;
  buildId: number;
  assignmentId: number;
  fileId: string;
  encodingId: number;
}

type StoredAssignment = Omit<Assignment, 'choices'> & { choices: string };

function revive(row: StoredAssignment): Assignment {
  return { ...row, choices: JSON.parse(row.choices) as Choices };
}

/** Statements on assignments, builds and outputs. */
export function packStatements(db: Db) {
  const assign = db.prepare<[number, string, string]>(
    `INSERT INTO assignments (soundId, briefId, choices) VALUES (?, ?, ?)
     ON CONFLICT (soundId, briefId) DO UPDATE SET choices = excluded.choices`,
  );
  const unassign = db.prepare<[number, string]>(
    'DELETE FROM assignments WHERE soundId = ? AND briefId = ?',
  );
  const assignments = db.prepare<[number], StoredAssignment>(
    `SELECT assignments.* FROM assignments JOIN sounds ON sounds.id = assignments.soundId
     WHERE sounds.projectId = ? AND sounds.removedAt IS NULL ORDER BY assignments.id`,
  );
  const ofSounds = db.prepare<[string], StoredAssignment>(
    `SELECT assignments.* FROM assignments JOIN sounds ON sounds.id = assignments.soundId
     WHERE soundId IN (SELECT value FROM json_each(?)) AND sounds.removedAt IS NULL ORDER BY assignments.id`,
  );
  const addBuild = db.prepare<[number, string]>(
    'INSERT INTO builds (projectId, createdAt) VALUES (?, ?)',
  );
  const addOutput = db.prepare<[Omit<OutputRow, 'id'>]>(
    `INSERT INTO outputs (buildId, assignmentId, fileId, encodingId)
     VALUES (@buildId, @assignmentId, @fileId, @encodingId)`,
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
       WHERE newer.assignmentId = outputs.assignmentId AND newer.fileId = outputs.fileId)`,
  );
  const dropBuilds = db.prepare('DELETE FROM builds WHERE id NOT IN (SELECT buildId FROM outputs)');
  return {
    assign: (soundId: number, briefId: string, choices: Choices) =>
      void assign.run(soundId, briefId, JSON.stringify(choices)),
    unassign: (soundId: number, briefId: string) => void unassign.run(soundId, briefId),
    assignments: (projectId: number) => assignments.all(projectId).map(revive),
    assignmentsOf: (soundIds: readonly number[]) =>
      ofSounds.all(JSON.stringify(soundIds)).map(revive),
    addBuild: (projectId: number) =>
      Number(addBuild.run(projectId, new Date().toISOString()).lastInsertRowid),
    addOutput: (row: Omit<OutputRow, 'id'>) => void addOutput.run(row),
    /** With the project that it was built for. */
    output: (id: number) => output.get(id),
    /** The newest output of every file of some assignments. */
    latestOutputs: (assignmentIds: readonly number[]) => latest.all(JSON.stringify(assignmentIds)),
    /** Forgets outputs that a newer one has taken the place of, and builds of which nothing is left. */
    dropSuperseded(): void {
      dropSuperseded.run();
      dropBuilds.run();
    },
  };
}
