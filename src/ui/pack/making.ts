import type { Cell } from '@/wire';
import { call } from '../shared/api';
import { useProject } from '../shared/project';
import { useAction } from '../shared/useAction';
import { changes } from '../shared/useChange';
import { useWorkOn } from '../shared/work';

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
  const { run, busy } = useAction();
  const { progress = 0, end } = useWorkOn('encode', encodingId);
  return { progress, busy, cancel: () => run(end) };
}
