'use client';

import { keepPreviousData, useQueries, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { Cell, PackLine } from '@/wire';
import { call } from './api';
import { inBatches } from './batches';
import { useProject } from './project';

/** So many lines are asked for at a time. */
const MOST_LINES = 100;

const loadLine = inBatches(MOST_LINES, async (projectId, ids) => {
  const lines = await call<PackLine[]>(`projects/${projectId}/lines?of=${ids.join(',')}`);
  return new Map(lines.map((line) => [line.assignment.id, line]));
});

/** How everything about one cell is asked for: again whenever something of it is other. */
export function lineQuery(projectId: number, { id, revision }: Pick<Cell, 'id' | 'revision'>) {
  return {
    queryKey: ['line', projectId, id, revision],
    queryFn: () => loadLine(projectId, id),
    staleTime: Infinity,
    gcTime: 60_000,
  };
}

/** Everything about one cell; undefined until it is there. While it is fetched again, the last is answered. */
export function useLine(cell: Cell): PackLine | undefined {
  const { project } = useProject();
  const { data } = useQuery({
    ...lineQuery(project.id, cell),
    placeholderData: keepPreviousData,
  });
  return data ?? undefined;
}

type Fetched = PackLine | null | undefined;

const none: readonly PackLine[] = [];

/** The lines of one sound, as far as they are there. */
export function useLinesOf(sound: { id: number } | undefined) {
  const { project, cells } = useProject();
  const own = useMemo(
    () => (sound ? cells.filter(({ soundId }) => soundId === sound.id) : []),
    [cells, sound],
  );
  return useQueries({
    queries: own.map((cell) => lineQuery(project.id, cell)),
    combine: allThere,
  });
}

/** Those of a moment ago are no help: what was built then may be out of date. */
function allThere(results: readonly { data?: Fetched }[]): readonly PackLine[] {
  return results.length === 0 ? none : results.flatMap(({ data }) => data ?? []);
}
