import { BijouError, errorFacts } from '@/core/errors';
import type { JobKind } from '../kind';

/** Putting a pack together, once all of its files are there. */
export const packJob: JobKind = {
  kind: 'pack',
  lane: 'beside',
  verb: 'putting together',
  noun: 'pack',
  waiting: ({ context: { db } }) => db.madePacks.unfinished(),
  handler({ context: { db }, packing }) {
    const cancelled = () =>
      errorFacts(new BijouError('cancelled', 'It was cancelled.', 'Make it again.'));
    return {
      basis: ({ subjectId }) => db.madePacks.byId(subjectId)?.createdAt ?? null,
      start: () => undefined,
      run: ({ subjectId }, { signal, progress, commit, isApart = false }) =>
        packing.assemble(subjectId, { signal, progress, commit, isApart }),
      fail: ({ subjectId }, error) => packing.failed(subjectId, error),
      cancel: ({ subjectId }) => packing.failed(subjectId, cancelled()),
    };
  },
};
