import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import type { FormatChoice } from '@/core/formats/legality';
import type { OneOffWish } from '@/core/oneOff/plan';
import type { OneOffOutlooks, OneOffSet } from '@/wire';
import { call } from '../shared/api';
import { useProject } from '../shared/project';

/** Everything that can be converted to. */
export function useFormats(): readonly FormatChoice[] {
  const { data } = useQuery({
    queryKey: ['formats'],
    queryFn: () => call<FormatChoice[]>('formats'),
    staleTime: Infinity,
  });
  return data ?? [];
}

/** What would become of sounds; that of a moment ago stays until the answer is there. */
export function useOutlook(ids: readonly number[], wish: OneOffWish): OneOffOutlooks | null {
  const { project, revision } = useProject();
  const { data } = useQuery({
    queryKey: ['outlook', project.id, revision, ids, wish],
    queryFn: ({ signal }) =>
      call<OneOffOutlooks>(
        `projects/${project.id}/one-offs/outlook`,
        'POST',
        { sounds: ids, wish },
        signal,
      ),
    enabled: ids.length > 0,
    placeholderData: keepPreviousData,
    gcTime: 60_000,
  });
  return ids.length > 0 ? (data ?? null) : null;
}

/** The newest conversion of the project; undefined until it is known. */
export function useLatest(): OneOffSet | null | undefined {
  const { project } = useProject();
  const { data } = useQuery({
    queryKey: ['one-offs', project.id],
    queryFn: () => call<OneOffSet | null>(`projects/${project.id}/one-offs`),
  });
  return data;
}

/** While something is being made, how often it is asked how far it is. */
const EVERY_MS = 250;

export function isOpen({ files }: OneOffSet): boolean {
  return files.some(({ state }) => state === 'queued' || state === 'running');
}

/** A conversion as far as it is. */
export function useConversion(id: number): OneOffSet | undefined {
  const { data } = useQuery({
    queryKey: ['one-off', id],
    queryFn: () => call<OneOffSet>(`one-offs/${id}`),
    refetchInterval: ({ state }) => (!state.data || isOpen(state.data) ? EVERY_MS : false),
    staleTime: 0,
  });
  return data;
}

/** Begins a conversion, and knows it from then on. */
export function useBegin() {
  const { project } = useProject();
  const client = useQueryClient();
  return async (sounds: readonly number[], wish: OneOffWish): Promise<number> => {
    const set = await call<OneOffSet>(`projects/${project.id}/one-offs`, 'POST', { sounds, wish });
    client.setQueryData(['one-off', set.id], set);
    client.setQueryData(['one-offs', project.id], set);
    return set.id;
  };
}
