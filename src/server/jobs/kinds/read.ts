import { isPassing, isShortOfRoom, type ErrorFacts } from '@/core/errors';
import type { JobKind } from '../kind';

/** Reading a source after it came in. What cannot be read is refused, and its bytes are not kept. */
export const readJob: JobKind = {
  kind: 'read',
  lane: 'threads',
  isOvertaken: true,
  verb: 'reading',
  noun: 'sound',
  // What took too long, or brought its process down again and again, waits until somebody wants it.
  waiting: ({ context: { db } }) =>
    db.sounds.unread().filter(({ error }) => !error || isShortOfRoom(error)),
  handler({ context: { db, store, pool }, deletions: { release } }) {
    function fail(soundId: number, error: ErrorFacts): void {
      const sound = db.sounds.byId(soundId);
      // A sound that was read before stays: it is only being measured anew.
      if (!sound || sound.state === 'ready') return;
      if (isPassing(error)) {
        db.sounds.setState(soundId, 'reading', error);
      } else {
        db.sounds.setState(soundId, 'refused', error);
        release(sound.sourceSha256);
      }
    }
    return {
      basis: ({ subjectId }) => db.sounds.byId(subjectId)?.sourceSha256 ?? null,
      start(job) {
        // What went wrong the last time is not said while it is tried again.
        if (db.sounds.byId(job.subjectId)?.state === 'reading') {
          db.sounds.setState(job.subjectId, 'reading');
        }
      },
      async run(job, { temporary, commit, ...options }) {
        const sound = db.sounds.byId(job.subjectId);
        if (!sound) return;
        const sha256 = sound.sourceSha256;
        const peaks = temporary();
        const read = await pool().run(
          { kind: 'read', source: store.path(sha256), raw: sound.raw, peaks },
          options,
        );
        await store.place(peaks, sha256, 'peaks');
        commit(() => {
          db.sources.setFacts(sha256, read.facts, read.warnings, read.thumbnail);
          db.sounds.setState(sound.id, 'ready');
        });
      },
      fail: (job, error) => fail(job.subjectId, error),
      cancel(job) {
        // One that was taken out is read when it is brought back.
        if (db.sounds.byId(job.subjectId)?.removedAt != null) return;
        fail(job.subjectId, {
          code: 'cancelled',
          message: 'Reading it was cancelled.',
          hint: 'Bring it in again when you like.',
        });
      },
    };
  },
};
