import { briefById } from '@/core/brief';
import { BijouError } from '@/core/errors';
import type { Context } from '../context';
import type { Output } from '@/wire';
import type { EncodingRow } from '../db/packs';
import type { JobHandler } from '../jobs/runner';
import type { DeletionService } from './deleting';
import { plannedFiles } from './planning';
import { sourceShape } from './sounds';

/** Making one output. */
export function buildHandler(
  { db, store, pool }: Context,
  { release }: DeletionService,
): JobHandler {
  function find(outputId: number) {
    const output = db.packs.output(outputId);
    const assignment = output && db.packs.assignmentById(output.assignmentId);
    const sound = assignment && db.sounds.byId(assignment.soundId);
    return output && assignment && sound ? { output, assignment, sound } : null;
  }

  /** Writes down what was made, unless nobody wants it any more. */
  function finish({ id, assignmentId, fileId }: Output, made?: EncodingRow): void {
    if (!db.packs.output(id)) return release(...(made ? [made.sha256] : []));
    if (made) db.packs.addEncoding(made);
    db.packs.setOutput(id, 'done');
    release(...db.packs.dropSuperseded(assignmentId, fileId));
  }

  return {
    usesThread: true,
    start: (job) => db.packs.setOutput(job.subjectId, 'running'),
    async run(job, { temporary, commit, ...options }) {
      const found = find(job.subjectId);
      if (!found) return;
      const { output, assignment, sound } = found;
      const brief = briefById(assignment.briefId);
      const planned = plannedFiles(sound, brief, assignment.choices).find(
        (plan) => plan.file.id === output.fileId,
      );
      // The recipe may have changed while this was waiting: then this output is of no use any more.
      if (planned?.outputKey !== output.outputKey) throw outOfDate();
      const twin = db.packs.encoding(output.outputKey);
      if (twin && (await store.has(twin.sha256))) {
        // Another sound with the same source and recipe was quicker.
        commit(() => finish(output));
        return;
      }
      const [path, peaks, workingCopy] = [temporary(), temporary(), temporary()];
      const result = await pool().run(
        {
          kind: 'build',
          source: store.path(sound.sourceSha256),
          raw: sound.raw,
          sourceShape: sourceShape(sound),
          isCopy: planned.isCopy,
          recipe: planned.recipe,
          writer: planned.file.writer,
          settings: planned.file.settings,
          brief,
          fileId: output.fileId,
          output: path,
          peaks,
          workingCopy,
        },
        options,
      );
      if (result.hasWorkingCopy) await store.place(workingCopy, result.sha256, 'pcm.wav');
      await store.place(peaks, result.sha256, 'peaks');
      const { outputKey } = output;
      const { sha256, verification, warnings, raw } = result;
      await store.while(sha256, async () => {
        // A copy has its source's address, and what is stored is never written again.
        await store.place(path, sha256);
        commit(() => finish(output, { outputKey, sha256, verification, warnings, raw }));
      });
    },
    fail: (job, error) => db.packs.setOutput(job.subjectId, 'failed', error),
    cancel: (job) => db.packs.setOutput(job.subjectId, 'cancelled'),
  };
}

function outOfDate(): BijouError {
  return new BijouError(
    'not-allowed',
    'The sound was changed after this build was started.',
    'Build it again.',
  );
}
