import type { JobKind } from '../kind';

/** Finding out what comes of a sound's recipe. Nobody waits for it. */
export const outcomeJob: JobKind = {
  kind: 'outcome',
  lane: 'threads',
  isQuiet: true,
  verb: 'measuring',
  noun: 'sound',
  handler({ context: { db, store, pool }, outcomes }) {
    return {
      start: () => undefined,
      async run(job, { commit, ...options }) {
        const wanted = outcomes.wanted(job.subjectId);
        if (!wanted) return;
        const { sound, sourceShape, key } = wanted;
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
        commit(() => outcomes.finish(job.subjectId, key, outcome));
      },
      fail: (job, error) => outcomes.fail(job.subjectId, error),
      cancel: () => undefined,
    };
  },
};
