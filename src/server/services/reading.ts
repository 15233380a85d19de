import type { Context } from '../context';

/** Reading what came in: not while it is taken out, and again when it is brought back. */
export function readingService({ db, pump, cancel }: Context) {
  /** Call after every change. */
  function follow(projectId: number): void {
    let isNew = false;
    for (const { id, isRemoved, isStuck } of db.sounds.beingRead(projectId)) {
      const job = db.jobs.of('read', id);
      if (job !== undefined && isRemoved) cancel(job);
      if (job !== undefined || isRemoved || isStuck) continue;
      db.jobs.add(projectId, 'read', id);
      isNew = true;
    }
    if (isNew) pump();
  }

  return { follow };
}
