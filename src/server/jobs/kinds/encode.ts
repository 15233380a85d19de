import { BijouError } from '@/core/errors';
import type { MadeFile } from '../../db/encodings';
import type { JobKind } from '../kind';

/** Making a file: its source, recipe, writer and settings stand with it. Who wants it, and for what, is not asked. */
export const encodeJob: JobKind = {
  kind: 'encode',
  lane: 'threads',
  verb: 'building',
  noun: 'file',
  waiting: ({ context: { db } }) => db.encodings.open(),
  handler({ context: { db, store, pool, changed }, deletions: { release }, trying }) {
    /** Tells everybody who waits for it. */
    function tell(id: number): void {
      trying.fileSettled(id);
      for (const projectId of db.encodings.projectsOf(id)) changed(projectId);
    }

    function finish(id: number, made: MadeFile): void {
      db.encodings.finish(id, made);
      tell(id);
    }

    return {
      // It is made by its key, which never changes; who wants it may go.
      basis: ({ subjectId }) => db.encodings.byId(subjectId)?.key ?? null,
      start: (job) => db.encodings.setState(job.subjectId, 'running'),
      async run(job, { temporary, commit, ...options }) {
        const plan = db.encodings.planOf(job.subjectId);
        if (!plan) return;
        const { sourceSha256, ...how } = plan;
        const sourceShape = db.sources.shapeOf(sourceSha256);
        if (!sourceShape) throw sourceGone();
        const output = temporary();
        const made = await pool().run(
          {
            kind: 'encode',
            ...how,
            source: store.path(sourceSha256),
            raw: db.sources.rawOf(sourceSha256),
            sourceShape,
            output,
          },
          options,
        );
        const { sha256 } = made;
        await store.while(sha256, async () => {
          // A copy has its source's address, and what is stored is never written again.
          await store.place(output, sha256);
          if (!commit(() => finish(job.subjectId, made))) release(sha256);
        });
      },
      fail(job, error) {
        db.encodings.setState(job.subjectId, 'failed', error);
        tell(job.subjectId);
      },
      cancel({ subjectId, projectId }) {
        // Another project did not cancel what it waits for.
        const other = db.encodings.projectsOf(subjectId).find((id) => id !== projectId);
        db.encodings.setState(subjectId, other === undefined ? 'cancelled' : 'queued');
        if (other !== undefined) db.jobs.add(other, 'encode', subjectId);
        tell(subjectId);
      },
      cancelAll(jobs) {
        const ids = jobs.map(({ subjectId }) => subjectId);
        const shared = new Set(db.encodings.sharedAmong(ids));
        for (const job of jobs) if (shared.has(job.subjectId)) this.cancel(job);
        const own = ids.filter((id) => !shared.has(id));
        db.encodings.cancelAll(own);
        trying.filesSettled(own);
      },
    };
  },
};

function sourceGone(): BijouError {
  return new BijouError(
    'not-found',
    'The source that it is made of is not there any more.',
    'Bring the sound in again, then build again.',
  );
}
