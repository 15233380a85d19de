import type { JobKind } from '../kind';

/** Having a host look at what was built for it. */
export const rehearseJob: JobKind = {
  kind: 'rehearse',
  lane: 'beside',
  verb: 'rehearsing',
  noun: 'destination',
  waiting: ({ context: { db } }) => db.rehearsals.unfinished(),
  handler({ rehearsals }) {
    return {
      basis: ({ subjectId }) => rehearsals.basisOf(subjectId),
      start: () => undefined,
      async run({ subjectId }, { commit, signal, progress, isApart }) {
        commit(await rehearsals.run(subjectId, { signal, progress, isApart }));
      },
      fail: ({ subjectId }, error) => rehearsals.failed(subjectId, error),
      cancel: ({ subjectId }) => rehearsals.cancelled(subjectId),
    };
  },
};
