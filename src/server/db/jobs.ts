import type { Job } from '@/wire';
import type { Db } from './open';

/** A job as it is stored. */
export type JobRow = Omit<Job, 'progress' | 'isSuspect'> & { isSuspect: 0 | 1 };

/** Statements on what is to be done. A job that has ended is no row any more. */
export function jobStatements(db: Db) {
  const insert = db.prepare<[number, string, number, string]>(
    `INSERT INTO jobs (projectId, kind, subjectId, state, createdAt) VALUES (?, ?, ?, 'queued', ?)`,
  );
  const claim = db.prepare<[string], JobRow>(
    `UPDATE jobs SET state = 'running'
     WHERE id = (SELECT id FROM jobs WHERE state = 'queued'
         AND kind IN (SELECT value FROM json_each(?)) ORDER BY id LIMIT 1) RETURNING *`,
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
    "SELECT * FROM jobs WHERE state = 'queued' AND attempts >= ?",
  );
  const byId = db.prepare<[number], JobRow>('SELECT * FROM jobs WHERE id = ?');
  const open = db.prepare<[number], JobRow>('SELECT * FROM jobs WHERE projectId = ? ORDER BY id');
  const ofSubject = db
    .prepare<[string, number], number>(
      'SELECT EXISTS (SELECT 1 FROM jobs WHERE kind = ? AND subjectId = ?)',
    )
    .pluck();
  const jobOf = db
    .prepare<[string, number], number>('SELECT id FROM jobs WHERE kind = ? AND subjectId = ?')
    .pluck();
  // How far each is changes often and is worth nothing after a crash.
  const shares = new Map<number, number>();
  const revive = (row: JobRow): Job => ({
    ...row,
    isSuspect: row.isSuspect === 1,
    progress: shares.get(row.id) ?? 0,
  });
  const reviveIf = (row: JobRow | undefined) => row && revive(row);
  return {
    add: (projectId: number, kind: string, subjectId: number) =>
      Number(insert.run(projectId, kind, subjectId, new Date().toISOString()).lastInsertRowid),
    /** Takes the oldest queued job of some kinds and marks it as running, in one statement. */
    claim: (kinds: readonly string[]) => reviveIf(claim.get(JSON.stringify(kinds))),
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
    /** The queued or running job of a kind for a subject. */
    of: (kind: string, subjectId: number) => jobOf.get(kind, subjectId),
    isOpen: (kind: string, subjectId: number) => ofSubject.get(kind, subjectId) === 1,
  };
}
