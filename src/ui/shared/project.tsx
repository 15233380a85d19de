'use client';

import {
  notifyManager,
  QueryClient,
  QueryClientProvider,
  useQuery,
  useQueryClient,
} from '@tanstack/react-query';
import {
  createContext,
  Suspense,
  useContext,
  useEffect,
  useRef,
  useState,
  type ReactNode,
} from 'react';
import { create } from 'zustand';
import type { ProjectNews, ProjectState, TableLayout } from '@/wire';
import { call } from './api';
import { withNews } from './news';
import { hearProject } from './projectEvents';
import { unpackNews, unpackState, type PackedNews } from '@/wire/travelling';

/** How far running jobs are, by their ids. Comes by events, faster than the state is fetched. */
export const useProgress = create<{ byJob: Record<number, number> }>(() => ({ byJob: {} }));

// At once, not after a timeout: a box that was ticked must not be seen unticked for a moment.
notifyManager.setScheduler(queueMicrotask);

const ProjectId = createContext(0);

/**
 * Holds one project's state for the screens below it, and keeps it fresh. The state comes as text:
 * thousands of sounds travel faster so than as the properties of a component.
 */
export function ProjectProvider({ initial, children }: { initial: string; children: ReactNode }) {
  const [first] = useState(() => unpackState(initial));
  const { id } = first.project;
  const [client] = useState(() => {
    const made = new QueryClient({
      // What did not change is kept as it is by `withNews`; comparing all of it again would take long.
      // The server is on this machine or near it: whether the browser is on the internet says nothing.
      defaultOptions: {
        // What is asked for with every change is let go soon after the next one.
        queries: {
          ...{ staleTime: 30_000, gcTime: 20_000, retry: 1 },
          ...{ structuralSharing: false, networkMode: 'always' },
        },
      },
    });
    made.setQueryData(['project', id], first);
    return made;
  });
  return (
    <QueryClientProvider client={client}>
      <ProjectId.Provider value={id}>
        {/* For every piece of a page that comes late React begins again: from here, not with reading all sounds. */}
        <Suspense>
          <Events projectId={id} />
          {children}
        </Suspense>
      </ProjectId.Provider>
    </QueryClientProvider>
  );
}

/** Only which project is on the screen: does not draw anew when its state changes. */
export function useProjectId(): number {
  return useContext(ProjectId);
}

/** The state of the project on the screen. */
export function useProject(): ProjectState {
  const id = useContext(ProjectId);
  const client = useQueryClient();
  const queryKey = ['project', id];
  const { data } = useQuery({
    queryKey,
    queryFn: async () => {
      const before = client.getQueryData<ProjectState>(queryKey);
      if (!before) return call<ProjectState>(`projects/${id}`);
      const state = withNews(before, await newsFor(before));
      // Columns may have been moved meanwhile.
      const { layout } = client.getQueryData<ProjectState>(queryKey) ?? before;
      return { ...state, layout };
    },
  });
  if (!data) throw new Error('used outside of a project');
  return data;
}

/** All that is other than a screen knows, and the next part of what it does not know yet. */
async function newsFor(known: ProjectState): Promise<ProjectNews> {
  const { project, revision, briefsVersion, rest } = known;
  const query = new URLSearchParams({ since: String(revision), briefs: briefsVersion });
  if (!rest) return call<ProjectNews>(`projects/${project.id}?${query}`);
  query.set('after', String(rest.after));
  return unpackNews(await call<PackedNews>(`projects/${project.id}?${query}`));
}

/** What the screen knows right now: on which revision something is changed. */
export function useRevision(): () => number {
  const id = useContext(ProjectId);
  const client = useQueryClient();
  return () => client.getQueryData<ProjectState>(['project', id])?.revision ?? 0;
}

/** Changes how the table is laid out: at once on the screen, and on the server as fast as it answers. */
export function useSetLayout(): (layout: TableLayout) => void {
  const id = useContext(ProjectId);
  const client = useQueryClient();
  const sending = useRef<{ next: TableLayout | null } | null>(null);
  const save = async (layout: TableLayout): Promise<void> => {
    const state = { next: null as TableLayout | null };
    sending.current = state;
    await call(`projects/${id}/layout`, 'PUT', layout).catch(() => undefined);
    sending.current = null;
    if (state.next) await save(state.next);
  };
  return (layout) => {
    client.setQueryData<ProjectState>(['project', id], (state) => state && { ...state, layout });
    // While one is on its way, only the latest of what follows counts.
    if (sending.current) sending.current.next = layout;
    else void save(layout);
  };
}

/** Fetches the state again; call after every change of one's own. */
export function useRefresh(): () => Promise<void> {
  const id = useContext(ProjectId);
  const client = useQueryClient();
  return () => client.invalidateQueries({ queryKey: ['project', id] });
}

/** Time between two fetches of the state while many things change at once: as fast as it can be followed. */
const PAUSE_MS = { least: 150, most: 1_000 };

/** What is known of jobs that are still running: others are over, and nobody asks for them any more. */
function runningOf(
  client: QueryClient,
  projectId: number,
  byJob: Record<number, number>,
): Record<number, number> {
  if (Object.keys(byJob).length < MOST_HEARD) return byJob;
  const { running = [] } = client.getQueryData<ProjectState>(['project', projectId]) ?? {};
  return Object.fromEntries(running.flatMap(({ id }) => (id in byJob ? [[id, byJob[id]!]] : [])));
}

/** More jobs than ever run at a time. */
const MOST_HEARD = 50;

function Events({ projectId }: { projectId: number }) {
  const client = useQueryClient();
  useEffect(() => {
    let waiting: ReturnType<typeof setTimeout> | undefined;
    let pause = PAUSE_MS.least;
    let isOpen = true;
    let isFetching = false;
    let isWanted = false;
    /** Whether there is more to fetch, and whether the last time nothing came. */
    const loading = () => {
      const { data, status } = client.getQueryState<ProjectState>(['project', projectId]) ?? {};
      return { isPart: Boolean(data?.rest), hasFailed: status !== 'success' };
    };
    const refresh = () => {
      isWanted = true;
      if (!isFetching) waiting ??= setTimeout(() => void fetchNews(), pause);
    };
    const fetchNews = async () => {
      waiting = undefined;
      [isFetching, isWanted] = [true, false];
      const began = performance.now();
      await client.invalidateQueries({ queryKey: ['project', projectId] });
      await new Promise((drawn) => setTimeout(drawn));
      const took = performance.now() - began;
      pause = Math.max(PAUSE_MS.least, Math.min(PAUSE_MS.most, 2 * took));
      isFetching = false;
      if (!isOpen) return;
      const { isPart, hasFailed } = loading();
      if (isPart && !hasFailed) void fetchNews();
      else if (isPart || isWanted) refresh();
    };
    if (loading().isPart) void fetchNews();
    const unhear = hearProject(projectId, (heard) => {
      if (heard.kind === 'progress') {
        const { jobId, progress } = heard;
        useProgress.setState(({ byJob }) => ({
          byJob: { ...runningOf(client, projectId, byJob), [jobId]: progress },
        }));
        // After a lost connection, too, anything may have happened meanwhile.
      } else refresh();
    });
    return () => {
      isOpen = false;
      clearTimeout(waiting);
      unhear();
    };
  }, [client, projectId]);
  return null;
}
