import type { Choices } from '@/core/brief/plan';
import type { Verification } from '@/core/convert';
import type { ErrorFacts } from '@/core/errors';
import type { Warning } from '@/core/formats/types';
import type { Assignment, Output, WorkState } from '@/wire';
import type { Db } from './open';

export interface EncodingRow {
  outputKey: string;
  sha256: string;
  verification: Verification;
  warnings: Warning[];
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
  const latest = db.prepare<[number], StoredOutput>(
    `${OUTPUT} WHERE outputs.id IN (
       SELECT max(outputs.id) FROM outputs JOIN builds ON builds.id = outputs.buildId
       WHERE builds.projectId = ? GROUP BY assignmentId, fileId) ORDER BY outputs.id`,
  );
  const setOutput = db.prepare<[WorkState, string | null, number]>(
    'UPDATE outputs SET state = ?, error = ? WHERE id = ?',
  );
  const encoding = db.prepare<[string], Record<keyof EncodingRow, string>>(
    'SELECT * FROM encodings WHERE outputKey = ?',
  );
  const addEncoding = db.prepare<[string, string, string, string]>(
    'INSERT OR REPLACE INTO encodings (outputKey, sha256, verification, warnings) VALUES (?, ?, ?, ?)',
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
    /** The newest output of every assignment and file of a project. */
    latestOutputs: (projectId: number) => latest.all(projectId).map(revive),
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
        }
      );
    },
    addEncoding: (row: EncodingRow) =>
      void addEncoding.run(
        row.outputKey,
        row.sha256,
        JSON.stringify(row.verification),
        JSON.stringify(row.warnings),
      ),
  };
}
