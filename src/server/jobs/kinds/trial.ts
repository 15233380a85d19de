import { marksAfter } from '@/core/recipe/recipe';
import { noFile } from '../../work/tryFile';
import type { JobKind } from '../kind';
import { RANK } from '../ranks';

/** Holding a candidate's file against its sound, once it is made. */
export const trialJob: JobKind = {
  kind: 'trial',
  lane: 'threads',
  rank: RANK.measured,
  verb: 'measuring',
  noun: 'trial',
  waiting: ({ context: { db } }) => db.trials.unmeasured(),
  handler({ context: { db, store, pool }, trying }) {
    return {
      basis({ subjectId }) {
        const { encodingId = null, how } = db.trials.byId(subjectId) ?? {};
        const encoding = encodingId === null ? undefined : db.encodings.byId(encodingId);
        return how && encoding ? `${encoding.key} ${encoding.sha256}` : null;
      },
      start: () => undefined,
      async run(job, { commit, ...options }) {
        const trial = db.trials.byId(job.subjectId);
        const encoding = trial?.encodingId ? db.encodings.byId(trial.encodingId) : undefined;
        const plan = encoding && db.encodings.planOf(encoding.id);
        if (!trial?.how || !plan) return;
        const { sourceSha256 } = plan;
        const { reference } = trial.how;
        const sourceShape = db.sources.shapeOf(sourceSha256);
        const marks = db.sources.marksOf(sourceSha256);
        if (!encoding?.sha256 || !sourceShape || !marks) throw noFile();
        const { sha256 } = encoding;
        const figures = await store.derived.using([sourceSha256, sha256], () =>
          pool().run(
            {
              kind: 'trial',
              source: store.path(sourceSha256),
              raw: db.sources.rawOf(sourceSha256),
              sourceShape,
              reference,
              loop: marksAfter(reference, sourceShape, marks).loop,
              file: store.path(sha256),
              fileRaw: db.sources.rawOf(sha256),
              truePeakDbtp: encoding.verification?.facts.truePeakDbtp,
            },
            options,
          ),
        );
        commit(() => trying.measured(trial.id, figures));
      },
      fail: (job, error) => trying.failed(job.subjectId, error),
      cancel: (job) => trying.settled(job.subjectId),
    };
  },
};
