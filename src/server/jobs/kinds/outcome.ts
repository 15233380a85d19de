import type { JobKind } from '../kind';
import { RANK } from '../ranks';

/** Finding out what comes of a sound's recipe. Nobody waits for it. */
export const outcomeJob: JobKind = {
  kind: 'outcome',
  lane: 'threads',
  rank: RANK.quiet,
  verb: 'measuring',
  noun: 'sound',
  handler({ context: { db, store, pool }, outcomes }) {
    return {
      basis: ({ subjectId }) => outcomes.wanted(subjectId)?.key ?? null,
      start: () => undefined,
      async run(job, { commit, ...options }) {
        const wanted = outcomes.wanted(job.subjectId);
        if (!wanted) return;
        const { sound, sourceShape } = wanted;
        const outcome = await pool().run(
          {
            kind: 'outcome',
            source: store.path(sound.sourceSha256),
            raw: db.sources.rawOf(sound.sourceSha256),
            sourceShape,
            recipe: sound.recipe,
          },
          options,
        );
        commit(() => outcomes.finish(job.subjectId, outcome));
      },
      fail: (job, error) => outcomes.fail(job.subjectId, error),
      cancel: () => undefined,
    };
  },
};
