import { call } from './api';
import { useProgress, useProject } from './project';

/** What is being done about one thing: how far it is where that is known, and ending it, begun or not. */
export function useWorkOn(kind: string, subjectId: number) {
  const { project, running } = useProject();
  const job = running.find((one) => one.kind === kind && one.subjectId === subjectId);
  const heard = useProgress(({ byJob }) => (job ? byJob[job.id] : undefined));
  return {
    /** 0 to 1; undefined while it has not begun. */
    progress: job && (heard ?? job.progress),
    end: () => call(`projects/${project.id}/jobs/cancel`, 'POST', { kind, subjectId }),
  };
}
