import type { JobKind } from '../kind';

/** What decoding the files of a run costs, in turns, while nothing else is at work. */
export const decodingJob: JobKind = {
  kind: 'decoding',
  lane: 'alone',
  verb: 'timing',
  noun: 'run',
  waiting: ({ trying }) => trying.untimed(),
  handler({ context: { pool }, trying }) {
    return {
      basis: ({ subjectId }) => trying.timingBasis(subjectId),
      start: () => undefined,
      async run(job, { commit, ...options }) {
        const wanted = trying.toTime(job.subjectId);
        if (!wanted) return void commit(() => trying.timingOver(job.subjectId));
        const { trialIds, ...task } = wanted;
        const costs = await pool().run({ kind: 'decoding', ...task }, options);
        commit(() => trying.timed(job.subjectId, trialIds, costs));
      },
      fail: ({ subjectId }) => trying.timingOver(subjectId),
      cancel: ({ subjectId }) => trying.timingOver(subjectId),
    };
  },
};
