import type { Cell } from '@/wire';
import { call } from '../shared/api';
import { useProgress, useProject } from '../shared/project';
import { useAction } from '../shared/useAction';
import { changes } from '../shared/useChange';

/** Begins builds, once all that was chosen before is on the server: it is built as it was chosen last. */
export function useBuild() {
  const { project } = useProject();
  const { run, busy } = useAction();
  const begin = (what: { assignments?: number[] }) =>
    run(async () => {
      await changes.settled();
      await call(`projects/${project.id}/builds`, 'POST', what);
    });
  return {
    busy,
    buildAll: () => begin({}),
    /** One that is known to have failed or been cancelled, whatever its cell was heard to be last. */
    again: ({ id }: Pick<Cell, 'id'>) => begin({ assignments: [id] }),
    /** What of these is not there yet. What still waited for a choice may have got it just now: the server knows. */
    build: (cells: readonly Pick<Cell, 'id' | 'state'>[]) =>
      begin({
        assignments: cells
          .filter(({ state }) => state !== 'built' && state !== 'working')
          .map(({ id }) => id),
      }),
  };
}

/** How far a file is that is being made, and ending that. */
export function useMaking(encodingId: number) {
  const { jobs } = useProject();
  const { run, busy } = useAction();
  const job = jobs.find(({ kind, subjectId }) => kind === 'encode' && subjectId === encodingId);
  const heard = useProgress(({ byJob }) => (job ? byJob[job.id] : undefined));
  return {
    /** 0 to 1. */
    progress: heard ?? job?.progress ?? 0,
    busy,
    /** null when nothing is left to be ended. */
    cancel: job ? () => run(() => call(`jobs/${job.id}/cancel`, 'POST')) : null,
  };
}
