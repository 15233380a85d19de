import type { Choices } from '@/core/brief/plan';
import type { Verification } from '@/core/convert';
import type { ErrorFacts } from '@/core/errors';
import type { RawDescription } from '@/core/formats/raw/reader';
import type { Warning } from '@/core/formats/types';
import type { Assignment, Output, WorkState } from '@/wire';
import type { Db } from './open';

export interface EncodingRow {
  outputKey: string;
  sha256: string;
  verification: Verification;
  warnings: Warning[];
  /** How it is read when it has no header. */
  raw: RawDescription | null;
}

type StoredAssignment = Omit<Assignment, 'choices'> & { choices: string };
type StoredOutput = Omit<Output, 'error' | 'verification' | 'warnings'> &
  Record<'error' | 'verification' | 'warnings', string | null>;

function revive(row: StoredOutput): Output {
  return {
    ...row,
    error: row.error === null ? null : (JSON.parse(row.error) as ErrorFacts),
    verification: row.verification === null ? null : (JSON.parse(row.verification) as Verification),
    warnings: row.warnings === null ? [] : (JSON.parse(row.warnings) as Warning[]),
  };
}

function reviveAssignment(row: StoredAssignment): Assignment {
  return { ...row, choices: JSON.parse(row.choices) as Choices };
}

// Nobody looks at the spectrum of a finished file, and it is most of what is known of it.
const OUTPUT = `
  SELECT outputs.*, encodings.sha256, encodings.warnings,
    json_remove(encodings.verification, '$.facts.spectrum') AS verification
  FROM outputs LEFT JOIN encodings
    ON encodings.outputKey = outputs.outputKey AND outputs.state = 'done'`;

/** Statements on assignments, builds, outputs and encodings. */
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
  const assignmentById = db.prepare<[number], StoredAssignment>(
    'SELECT * FROM assignments WHERE id = ?',
  );
  const addBuild = db.prepare<[number, string]>(
    'INSERT INTO builds (projectId, createdAt) VALUES (?, ?)',
  );
  const addOutput = db.prepare<[number, number, string, string, string, WorkState]>(
    `INSERT INTO outputs (buildId, assignmentId, fileId, outputKey, name, state)
     VALUES (?, ?, ?, ?, ?, ?)`,
  );
  const outputById = db.prepare<[number], StoredOutput>(`${OUTPUT} WHERE outputs.id = ?`);
  // Those of an assignment lie together in the index: the newest of each file is found without reading the others.
  const latest = db.prepare<[string], StoredOutput>(
    `${OUTPUT} WHERE outputs.id IN (
       SELECT max(id) FROM outputs
       WHERE assignmentId IN (SELECT value FROM json_each(?)) GROUP BY assignmentId, fileId)
     ORDER BY outputs.id`,
  );
  const superseded = db
    .prepare<[{ assignmentId: number; fileId: string }], string>(
      `DELETE FROM outputs WHERE assignmentId = @assignmentId AND fileId = @fileId AND state NOT IN ('queued', 'running')
         AND id < (SELECT max(id) FROM outputs WHERE assignmentId = @assignmentId AND fileId = @fileId)
       RETURNING outputKey`,
    )
    .pluck();
  const allSuperseded = db.prepare(
    `DELETE FROM outputs WHERE state NOT IN ('queued', 'running') AND id < (
       SELECT max(id) FROM outputs AS newer
       WHERE newer.assignmentId = outputs.assignmentId AND newer.fileId = outputs.fileId)`,
  );
  const dropBuilds = db.prepare('DELETE FROM builds WHERE id NOT IN (SELECT buildId FROM outputs)');
  const dropIfUnused = (which: string) => `DELETE FROM encodings WHERE ${which} AND NOT EXISTS (
    SELECT 1 FROM outputs WHERE outputs.outputKey = encodings.outputKey) RETURNING sha256`;
  const unused = db.prepare<[string], string>(dropIfUnused('outputKey = ?')).pluck();
  const allUnused = db.prepare<[], string>(dropIfUnused('true')).pluck();
  const files = db.prepare<[], string>('SELECT DISTINCT sha256 FROM encodings').pluck();
  const lose = db.prepare<[string, string]>(
    `UPDATE outputs SET state = 'failed', error = ? WHERE state = 'done'
       AND outputKey IN (SELECT outputKey FROM encodings WHERE sha256 = ?)`,
  );
  const dropEncodings = db.prepare<[string]>('DELETE FROM encodings WHERE sha256 = ?');
  const open = db.prepare<[], { id: number; projectId: number }>(
    `SELECT outputs.id, builds.projectId FROM outputs JOIN builds ON builds.id = buildId
     WHERE state IN ('queued', 'running')`,
  );
  const setOutput = db.prepare<[WorkState, string | null, number]>(
    'UPDATE outputs SET state = ?, error = ? WHERE id = ?',
  );
  const encoding = db.prepare<
    [string],
    Record<Exclude<keyof EncodingRow, 'raw'>, string> & { raw: string | null }
  >('SELECT * FROM encodings WHERE outputKey = ?');
  const addEncoding = db.prepare<[string, string, string, string, string | null]>(
    `INSERT OR REPLACE INTO encodings (outputKey, sha256, verification, warnings, raw)
     VALUES (?, ?, ?, ?, ?)`,
  );
  return {
    assign: (soundId: number, briefId: string, choices: Choices) =>
      void assign.run(soundId, briefId, JSON.stringify(choices)),
    unassign: (soundId: number, briefId: string) => void unassign.run(soundId, briefId),
    assignments: (projectId: number) => assignments.all(projectId).map(reviveAssignment),
    assignmentById: (id: number) => {
      const row = assignmentById.get(id);
      return row && reviveAssignment(row);
    },
    addBuild: (projectId: number) =>
      Number(addBuild.run(projectId, new Date().toISOString()).lastInsertRowid),
    addOutput: (
      row: Pick<Output, 'buildId' | 'assignmentId' | 'fileId' | 'outputKey' | 'name' | 'state'>,
    ) =>
      Number(
        addOutput.run(row.buildId, row.assignmentId, row.fileId, row.outputKey, row.name, row.state)
          .lastInsertRowid,
      ),
    output: (id: number) => {
      const row = outputById.get(id);
      return row && revive(row);
    },
    /** The newest output of every file of some assignments. */
    latestOutputs: (assignmentIds: readonly number[]) =>
      latest.all(JSON.stringify(assignmentIds)).map(revive),
    /** Outputs that are queued or being made. */
    openOutputs: () => open.all(),
    /** Forgets outputs of one file that a newer one has taken the place of. Answers the files that no output has any more. */
    dropSuperseded: (assignmentId: number, fileId: string): string[] =>
      [...new Set(superseded.all({ assignmentId, fileId }))].flatMap((key) => unused.all(key)),
    /** The same for all outputs, and with what no output has any more for other reasons. */
    sweep(): string[] {
      allSuperseded.run();
      dropBuilds.run();
      return allUnused.all();
    },
    /** Every finished file. */
    files: () => files.all(),
    /** Writes down that a finished file is not there any more. */
    lose(sha256: string, error: ErrorFacts): void {
      lose.run(JSON.stringify(error), sha256);
      dropEncodings.run(sha256);
    },
    setOutput: (id: number, state: WorkState, error: ErrorFacts | null = null) =>
      void setOutput.run(state, error && JSON.stringify(error), id),
    encoding: (outputKey: string): EncodingRow | undefined => {
      const row = encoding.get(outputKey);
      return (
        row && {
          outputKey,
          sha256: row.sha256,
          verification: JSON.parse(row.verification) as Verification,
          warnings: JSON.parse(row.warnings) as Warning[],
          raw: row.raw === null ? null : (JSON.parse(row.raw) as RawDescription),
        }
      );
    },
    addEncoding: (row: EncodingRow) =>
      void addEncoding.run(
        row.outputKey,
        row.sha256,
        JSON.stringify(row.verification),
        JSON.stringify(row.warnings),
        row.raw && JSON.stringify(row.raw),
      ),
  };
}
