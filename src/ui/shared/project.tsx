'use client';

import { QueryClient, QueryClientProvider, useQuery, useQueryClient } from '@tanstack/react-query';
import { createContext, useContext, useEffect, useState, type ReactNode } from 'react';
import { create } from 'zustand';
import type { ProjectEvent, ProjectState } from '@/wire';
import { call } from './api';

/** How far running jobs are, by their ids. Comes by events, faster than the state is fetched. */
export const useProgress = create<{ byJob: Record<number, number> }>(() => ({ byJob: {} }));

const ProjectId = createContext(0);

/** Holds one project's state for the screens below it, and keeps it fresh. */
export function ProjectProvider({
  initial,
  children,
}: {
  initial: ProjectState;
  children: ReactNode;
}) {
  const [client] = useState(
    () => new QueryClient({ defaultOptions: { queries: { staleTime: 30_000, retry: 1 } } }),
  );
  if (client.getQueryData(['project', initial.project.id]) === undefined) {
    client.setQueryData(['project', initial.project.id], initial);
  }
  return (
    <QueryClientProvider client={client}>
      <ProjectId.Provider value={initial.project.id}>
        <Events projectId={initial.project.id} />
        {children}
      </ProjectId.Provider>
    </QueryClientProvider>
  );
}

/** The state of the project on the screen. */
export function useProject(): ProjectState {
  const id = useContext(ProjectId);
  const { data } = useQuery({
    queryKey: ['project', id],
    queryFn: () => call<ProjectState>(`projects/${id}`),
  });
  if (!data) throw new Error('used outside of a project');
  return data;
}

/** Fetches the state again; call after every change of one's own. */
export function useRefresh(): () => Promise<void> {
  const id = useContext(ProjectId);
  const client = useQueryClient();
  return () => client.invalidateQueries({ queryKey: ['project', id] });
}

/** Least time between two fetches of the state while many things change at once. */
const SETTLE_MS = 150;

function Events({ projectId }: { projectId: number }) {
  const client = useQueryClient();
  useEffect(() => {
    const events = new EventSource(`/api/projects/${projectId}/events`);
    let waiting: ReturnType<typeof setTimeout> | undefined;
    const refresh = () => {
      waiting ??= setTimeout(() => {
        waiting = undefined;
        void client.invalidateQueries({ queryKey: ['project', projectId] });
      }, SETTLE_MS);
    };
    // After a lost connection anything may have happened meanwhile.
    events.onopen = refresh;
    events.onmessage = ({ data }: MessageEvent<string>) => {
      const event = JSON.parse(data) as ProjectEvent;
      if (event.kind === 'changed') refresh();
      else {
        useProgress.setState(({ byJob }) => ({
          byJob: { ...byJob, [event.jobId]: event.progress },
        }));
      }
    };
    return () => {
      clearTimeout(waiting);
      events.close();
    };
  }, [client, projectId]);
  return null;
}
