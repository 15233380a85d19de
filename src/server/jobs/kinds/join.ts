import type { JobKind } from '../kind';

/** Joining a sound of others, anew whenever one of them is other than it was. */
export const joinJob: JobKind = {
  kind: 'join',
  lane: 'threads',
  verb: 'joining',
  noun: 'sound',
  handler({ context: { pool, store }, joins, listening }) {
    return {
      start: (job) => joins.tryAgain(job.subjectId),
      async run(job, { temporary, commit, ...options }) {
        const wanted = joins.wanted(job.subjectId);
        if (!wanted) return;
        const { join, hashes, facts } = wanted;
        const [output, peaks] = [temporary(), temporary()];
        const made = await listening.withPlain(hashes, (paths) =>
          pool().run(
            {
              kind: 'join',
              join,
              parts: facts.map((part, i) => ({ source: paths[i]!, facts: part })),
              output,
              peaks,
            },
            options,
          ),
        );
        await store.place(peaks, made.sha256, 'peaks');
        await store.while(made.sha256, async () => {
          await store.place(output, made.sha256);
          commit(() => joins.finish(job.subjectId, wanted.key, made));
        });
      },
      fail: (job, error) => joins.giveUp(job.subjectId, error),
      cancel: (job) =>
        joins.giveUp(job.subjectId, {
          code: 'cancelled',
          message: 'Joining was cancelled.',
          hint: 'Change one of its parts, or join them again.',
        }),
    };
  },
};
