import { call } from '../shared/api';
import { useProgress, useProject } from '../shared/project';
import { useAction } from '../shared/useAction';

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
