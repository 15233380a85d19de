import { useQueryClient } from '@tanstack/react-query';
import type { Brief } from '@/core/brief/schema';
import type { ProjectState } from '@/wire';
import { useProjectId } from './project';

/** Shows other briefs from now on: they do not travel with every change. */
export function useSetBriefs(): (briefs: Brief[]) => void {
  const id = useProjectId();
  const client = useQueryClient();
  return (briefs) =>
    void client.setQueryData<ProjectState>(
      ['project', id],
      (state) => state && { ...state, briefs },
    );
}
