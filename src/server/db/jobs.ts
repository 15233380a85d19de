import type { Job } from '@/wire';
import { RANK, type Rank } from '../jobs/ranks';
import type { Db } from './open';

/** A job as it is stored. */
export type JobRow = Omit<Job, 'progress' | 'isSuspect'> & { isSuspect: 0 | 1 };

const COLUMNS = 'id, projectId, kind, subjectId, state, rank, attempts, isSuspect, createdAt';

/** Statements on what is to be done. A job that has ended is no row any more. */
export function jobStatements(db: Db) {
  const insert = db.prepare<[number, string, number, Rank, string]>(
    `INSERT INTO jobs (projectId, kind, subjectId, state, rank, createdAt) VALUES (?, ?, ?, 'queued', ?, ?)`,
  );
  const hasten = db.prepare<[Rank, string, number, Rank]>(
    "UPDATE jobs SET rank = ? WHERE kind = ? AND subjectId = ? AND state = 'queued' AND rank > ?",
  );
  const claim = db.prepare<[string, Rank], JobRow>(
    `UPDATE jobs SET state = 'running'
     WHERE id = (SELECT id FROM jobs WHERE state = 'queued'
         AND kind IN (SELECT value FROM json_each(?)) AND rank <= ? ORDER BY rank, id LIMIT 1)
     RETURNING ${COLUMNS}`,
  );
  const setBasis = db.prepare<[string, number]>('UPDATE jobs SET basis = ? WHERE id = ?');
  const basisOf = db
    .prepare<[number], string | null>('SELECT basis FROM jobs WHERE id = ?')
    .pluck();
  const renew = db.prepare<[number]>(
    "UPDATE jobs SET state = 'queued', basis = NULL, attempts = 0, isSuspect = 0 WHERE id = ?",
  );
  const lastQueued = db.prepare<[number, string, number], JobRow>(
    // From the end: where there are very many, most of them are meant.
    `SELECT ${COLUMNS} FROM jobs NOT INDEXED WHERE projectId = ? AND state = 'queued'
       AND kind IN (SELECT value FROM json_each(?)) ORDER BY id DESC LIMIT ?`,
  );
  const endAll = db.prepare<[string]>(
    'DELETE FROM jobs WHERE id IN (SELECT value FROM json_each(?))',
  );
  const end = db.prepare<[number]>('DELETE FROM jobs WHERE id = ?');
  const drop = db.prepare<[string, number]>(
    "DELETE FROM jobs WHERE kind = ? AND subjectId = ? AND state = 'queued'",
  );
  const requeue = db.prepare<[number]>("UPDATE jobs SET state = 'queued' WHERE id = ?");
  const suspect = db.prepare<[number]>(
    "UPDATE jobs SET state = 'queued', isSuspect = 1, attempts = attempts + 1 WHERE id = ?",
  );
  const requeueRunning = db.prepare(
    `UPDATE jobs SET state = 'queued', isSuspect = 1, attempts = attempts + 1
     WHERE state = 'running'`,
  );
  const given = db.prepare<[number], JobRow>(
    `SELECT ${COLUMNS} FROM jobs WHERE state = 'queued' AND attempts >= ?`,
  );
  const byId = db.prepare<[number], JobRow>(`SELECT ${COLUMNS} FROM jobs WHERE id = ?`);
  const open = db.prepare<[number], JobRow>(
    `SELECT ${COLUMNS} FROM jobs WHERE projectId = ? ORDER BY id`,
  );
  const isLong = db
    .prepare<[Rank, number], 1>(
      "SELECT 1 FROM jobs WHERE state = 'queued' AND rank <= ? ORDER BY rank LIMIT 1 OFFSET ?",
    )
    .pluck();
  const counts = db.prepare<[number], { kind: string; open: number }>(
    'SELECT kind, count(*) AS open FROM jobs WHERE projectId = ? GROUP BY kind',
  );
  const running = db.prepare<[number], JobRow>(
    `SELECT ${COLUMNS} FROM jobs WHERE projectId = ? AND state = 'running' ORDER BY id`,
  );
  const ofSubject = db
    .prepare<[string, number], number>(
      'SELECT EXISTS (SELECT 1 FROM jobs WHERE kind = ? AND subjectId = ?)',
    )
    .pluck();
  const jobOf = db
    .prepare<[string, number], number>('SELECT id FROM jobs WHERE kind = ? AND subjectId = ?')
    .pluck();
  const ofSubjects = db.prepare<[string, string], JobRow>(
    `SELECT ${COLUMNS} FROM jobs WHERE kind = ? AND subjectId IN (SELECT value FROM json_each(?))`,
  );
  // How far each is changes often and is worth nothing after a crash.
  const shares = new Map<number, number>();
  const revive = (row: JobRow): Job => ({
    ...row,
    isSuspect: row.isSuspect === 1,
    progress: shares.get(row.id) ?? 0,
  });
  const reviveIf = (row: JobRow | undefined) => row && revive(row);
  return {
    add: (projectId: number, kind: string, subjectId: number, rank: Rank = RANK.usual) =>
      Number(
        insert.run(projectId, kind, subjectId, rank, new Date().toISOString()).lastInsertRowid,
      ),
    /** Has it come at least at that place, where it has not begun. */
    hasten: (kind: string, subjectId: number, rank: Rank) =>
      void hasten.run(rank, kind, subjectId, rank),
    /**
     * Takes the first queued job of some kinds, down to the rank `most`, and marks it as running, in one statement.
     */
    claim: (kinds: readonly string[], most: Rank) =>
      reviveIf(claim.get(JSON.stringify(kinds), most)),
    /** What it was begun for. */
    /** Whether at least so many are queued at a rank or before it. */
    isQueueLong: (rank: Rank, count: number) => isLong.get(rank, count - 1) === 1,
    setBasis: (id: number, basis: string) => void setBasis.run(basis, id),
    basisOf: (id: number) => basisOf.get(id) ?? null,
    /** Puts a job back whose result counts no more, as if it had not been begun. */
    renew: (id: number) => void renew.run(id),
    /** Of a project, the last in front. */
    lastQueued: (projectId: number, kinds: readonly string[], most: number) =>
      lastQueued.all(projectId, JSON.stringify(kinds), most).map(revive),
    endAll: (ids: readonly number[]) => void endAll.run(JSON.stringify(ids)),
    end(id: number): void {
      shares.delete(id);
      end.run(id);
    },
    /** Forgets what was to be done to a subject that is gone. */
    drop: (kind: string, subjectId: number) => void drop.run(kind, subjectId),
    /** Puts a job back that was stopped and did nothing wrong. */
    requeue: (id: number) => void requeue.run(id),
    /** Puts a job back that fell over; from now on it runs apart from others. */
    suspect: (id: number) => void suspect.run(id),
    /** After a crash: any of those that were running may have been the cause, and have had their try. */
    requeueRunning: () => void requeueRunning.run(),
    /** Queued ones that have been tried so often. */
    triedOften: (attempts: number) => given.all(attempts).map(revive),
    setProgress: (id: number, share: number) => void shares.set(id, share),
    byId: (id: number) => reviveIf(byId.get(id)),
    /** Queued and running jobs of a project. */
    open: (projectId: number) => open.all(projectId).map(revive),
    /** How many of each kind are queued or running. */
    counts: (projectId: number) => counts.all(projectId),
    running: (projectId: number) => running.all(projectId).map(revive),
    /** The queued or running job of a kind for a subject. */
    of: (kind: string, subjectId: number) => jobOf.get(kind, subjectId),
    /** Queued and running jobs of a kind, by their subjects. */
    ofSubjects: (kind: string, subjectIds: readonly number[]): Map<number, Job> =>
      new Map(
        ofSubjects.all(kind, JSON.stringify(subjectIds)).map((row) => [row.subjectId, revive(row)]),
      ),
    isOpen: (kind: string, subjectId: number) => ofSubject.get(kind, subjectId) === 1,
  };
}
