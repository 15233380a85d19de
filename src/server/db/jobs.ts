import type { Job, JobKind, WorkState } from '@/wire';
import type { Db } from './open';

export function jobStatements(db: Db) {
  const insert = db.prepare<[number, JobKind, number, string]>(
    `INSERT INTO jobs (projectId, kind, subjectId, state, createdAt) VALUES (?, ?, ?, 'queued', ?)`,
  );
  const claim = db.prepare<[string], Job>(
    `UPDATE jobs SET state = 'running', attempts = attempts + 1, progress = 0
     WHERE id = (SELECT id FROM jobs WHERE state = 'queued'
         AND kind IN (SELECT value FROM json_each(?)) ORDER BY id LIMIT 1) RETURNING *`,
  );
  const settle = db.prepare<[WorkState, string | null, number]>(
    'UPDATE jobs SET state = ?, finishedAt = ? WHERE id = ?',
  );
  const progress = db.prepare<[number, number]>('UPDATE jobs SET progress = ? WHERE id = ?');
  const requeue = db.prepare("UPDATE jobs SET state = 'queued' WHERE state = 'running'");
  const byId = db.prepare<[number], Job>('SELECT * FROM jobs WHERE id = ?');
  const open = db.prepare<[number], Job>(
    `SELECT * FROM jobs WHERE projectId = ? AND state IN ('queued', 'running') ORDER BY id`,
  );
  return {
    add: (projectId: number, kind: JobKind, subjectId: number) =>
      Number(insert.run(projectId, kind, subjectId, new Date().toISOString()).lastInsertRowid),
    /** Takes the oldest queued job of some kinds and marks it as running, in one statement. */
    claim: (kinds: readonly JobKind[]) => claim.get(JSON.stringify(kinds)),
    settle: (id: number, state: WorkState) =>
      void settle.run(state, state === 'queued' ? null : new Date().toISOString(), id),
    setProgress: (id: number, value: number) => void progress.run(value, id),
    /** After a crash: what was running goes back into the queue. Answers how many. */
    requeueRunning: () => requeue.run().changes,
    byId: (id: number) => byId.get(id),
    /** Queued and running jobs of a project. */
    open: (projectId: number) => open.all(projectId),
  };
}
