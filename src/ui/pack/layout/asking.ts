'use client';

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { Changed, PackOutline, PackSummary } from '@/wire';
import { call } from '../../shared/api';
import { useTold } from '../../shared/history';
import { useProject } from '../../shared/project';
import { useAction } from '../../shared/useAction';

/** While much is being built a pack is laid out anew so many times, not after every file. */
const MOST_STEPS = 20;

/** Another text whenever a pack might come out otherwise. */
export function usePackVersion(): string {
  const { revision, packs, briefsVersion, history, cells, work } = useProject();
  const finished = cells.reduce((sum, one) => sum + one.finished, 0);
  if (work.some(({ kind }) => kind === 'encode')) {
    const step = Math.ceil(cells.length / MOST_STEPS);
    const far = Math.floor(finished / Math.max(1, step));
    return ['building', far, packs.version, briefsVersion, history.undo?.id].join(' ');
  }
  return [
    revision,
    packs.version,
    briefsVersion,
    history.undo?.id,
    history.redo?.id,
    finished,
  ].join(' ');
}

/** A pack of some destinations as it would be made now. */
export function useOutline(briefIds: readonly string[]): PackOutline | undefined {
  const { project } = useProject();
  const version = usePackVersion();
  const asked = briefIds.map((id) => `brief=${encodeURIComponent(id)}`).join('&');
  const { data } = useQuery({
    queryKey: ['outline', project.id, asked, version],
    queryFn: () => call<PackOutline>(`projects/${project.id}/packs/outline?${asked}`),
    enabled: briefIds.length > 0,
    placeholderData: (before, query) => (query?.queryKey[2] === asked ? before : undefined),
  });
  return data;
}

/** The packs of the project, newest first. */
export function usePacks(): readonly PackSummary[] | undefined {
  const { project } = useProject();
  const version = usePackVersion();
  const { data } = useQuery({
    queryKey: ['packs', project.id, version],
    queryFn: () => call<PackSummary[]>(`projects/${project.id}/packs`),
    placeholderData: keepPreviousData,
  });
  return data;
}

/** Decides about the pack of one destination: every change is a step that can be undone. */
export function useSettling(briefId: string) {
  const { project } = useProject();
  const { run, busy } = useAction();
  const told = useTold();
  const path = `projects/${project.id}/layouts/${briefId}`;
  const change = async (what: string, method: string, data?: unknown, say?: string) => {
    let made: Changed | null = null;
    const isDone = await run(async () => {
      made = await call<Changed>(`${path}${what}`, method, data);
    });
    const { changeId } = (made as Changed | null) ?? {};
    if (isDone && say && changeId) told(say, changeId);
    return isDone;
  };
  return { path, busy, run, change };
}

/** Makes packs. */
export function useMakePack() {
  const { project } = useProject();
  const { run, busy } = useAction();
  return {
    busy,
    make: (briefs: readonly string[]) =>
      run(() => call(`projects/${project.id}/packs`, 'POST', { briefs })),
  };
}
