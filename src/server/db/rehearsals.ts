import type { ErrorFacts } from '@/core/errors';
import type { RehearsalState, RehearsalSummary } from '@/wire';
import type { Db } from './open';

/** What a host said of what was built last for a destination. */
export interface RehearsalRow extends RehearsalSummary {
  id: number;
  projectId: number;
}

/** What a host said of the files of one sound. */
export interface RehearsedSound {
  assignmentId: number;
  /** Its id and version. */
  host: string;
  /** The hashes of the files, in their order. */
  files: string;
  refusal: string | null;
}

interface StoredRehearsal {
  id: number;
  projectId: number;
  briefId: string;
  state: RehearsalState;
  error: string | null;
  result: string | null;
}

function revive({ error, result, ...row }: StoredRehearsal): RehearsalRow {
  return {
    ...row,
    error: error === null ? null : (JSON.parse(error) as ErrorFacts),
    said: result === null ? null : (JSON.parse(result) as RehearsalSummary['said']),
  };
}

/** Statements on rehearsals. */
export function rehearsalStatements(db: Db) {
  const due = db.prepare<[number, string]>(
    `INSERT INTO rehearsals (projectId, briefId, state) VALUES (?, ?, 'due')
     ON CONFLICT (projectId, briefId) DO UPDATE SET state = 'due'`,
  );
  const byId = db.prepare<[number], StoredRehearsal>('SELECT * FROM rehearsals WHERE id = ?');
  const ofProject = db.prepare<[number], StoredRehearsal>(
    'SELECT * FROM rehearsals WHERE projectId = ? ORDER BY briefId',
  );
  const unfinished = db.prepare<[], { id: number; projectId: number }>(
    "SELECT id, projectId FROM rehearsals WHERE state = 'checking'",
  );
  const setState = db.prepare<[RehearsalState, string | null, number]>(
    'UPDATE rehearsals SET state = ?, error = ? WHERE id = ?',
  );
  const finish = db.prepare<[string, number]>(
    "UPDATE rehearsals SET state = 'done', error = NULL, result = ? WHERE id = ?",
  );
  // What was said before is left alone: every row that is written has its cell judged anew.
  const tell = db.prepare<[string]>(
    `INSERT OR REPLACE INTO rehearsedSounds (assignmentId, host, files, refusal)
     SELECT assignmentId, host, files, refusal FROM (
       SELECT value ->> 'assignmentId' AS assignmentId, value ->> 'host' AS host, value ->> 'files' AS files,
         value ->> 'refusal' AS refusal FROM json_each(?)
       ) AS new
     WHERE EXISTS (SELECT 1 FROM assignments WHERE id = new.assignmentId)
       AND NOT EXISTS (SELECT 1 FROM rehearsedSounds AS old WHERE old.assignmentId = new.assignmentId
         AND old.host = new.host AND old.files = new.files AND old.refusal IS new.refusal)`,
  );
  const told = db.prepare<[number], RehearsedSound>(
    `SELECT rehearsedSounds.* FROM rehearsedSounds
       JOIN assignments ON assignments.id = assignmentId JOIN sounds ON sounds.id = soundId
     WHERE projectId = ?`,
  );
  const toldOf = db.prepare<[string], RehearsedSound>(
    'SELECT * FROM rehearsedSounds WHERE assignmentId IN (SELECT value FROM json_each(?))',
  );
  return {
    /** A destination is to be rehearsed as soon as its files are there. */
    due: (projectId: number, briefId: string) => void due.run(projectId, briefId),
    byId(id: number): RehearsalRow | undefined {
      const row = byId.get(id);
      return row && revive(row);
    },
    of: (projectId: number) => ofProject.all(projectId).map(revive),
    /** Those that a job should be at. */
    unfinished: () => unfinished.all(),
    setState: (id: number, state: RehearsalState, error: ErrorFacts | null = null) =>
      void setState.run(state, error && JSON.stringify(error), id),
    finish: (id: number, said: NonNullable<RehearsalSummary['said']>) =>
      void finish.run(JSON.stringify(said), id),
    /** Writes down what was said of some sounds: `RehearsedSound[]` as JSON. */
    tell: (rows: string) => void tell.run(rows),
    /** What was said of some assignments. */
    toldOf: (assignmentIds: readonly number[]) => toldOf.all(JSON.stringify(assignmentIds)),
    /** What was said of the sounds of a project, by assignment. */
    told: (projectId: number) =>
      new Map(told.all(projectId).map((row) => [row.assignmentId, row] as const)),
  };
}
