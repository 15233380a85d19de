import type { JobKind } from '../kind';

/** Joining a sound of others, anew whenever one of them is other than it was. */
export const joinJob: JobKind = {
  kind: 'join',
  lane: 'threads',
  verb: 'joining',
  noun: 'sound',
  handler({ context: { pool, store }, deletions: { release }, joins, listening }) {
    return {
      basis: ({ subjectId }) => joins.keyNow(subjectId),
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
              parts: facts.map((part, i) => ({
                source: paths[i]!,
                raw: listening.rawAt(paths[i]!, hashes[i]!),
                facts: part,
              })),
              output,
              peaks,
            },
            options,
          ),
        );
        await store.place(peaks, made.sha256, 'peaks');
        await store.while(made.sha256, async () => {
          await store.place(output, made.sha256);
          if (!commit(() => joins.finish(job.subjectId, wanted.key, made))) release(made.sha256);
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
