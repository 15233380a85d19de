import type { JobKind } from '../kind';

/** What decoding the files of a run costs, in turns, while nothing else is at work. */
export const decodingJob: JobKind = {
  kind: 'decoding',
  lane: 'alone',
  verb: 'timing',
  noun: 'run',
  handler({ context: { pool }, trying }) {
    return {
      start: () => undefined,
      async run(job, { commit, ...options }) {
        const wanted = trying.toTime(job.subjectId);
        if (!wanted) return;
        const { trialIds, ...task } = wanted;
        const costs = await pool().run({ kind: 'decoding', ...task }, options);
        commit(() => trying.timed(trialIds, costs));
      },
      fail: () => undefined,
      cancel: () => undefined,
    };
  },
};
