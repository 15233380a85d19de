import { keepPreviousData, QueryClient, useQuery } from '@tanstack/react-query';
import { call } from '../shared/api';

/** The part of a sound that a picture shows, in frames. */
export interface View {
  start: number;
  end: number;
}

/** Per channel `[min, max, rms]` for each column, one after the other. */
export type Peaks = number[][];

/** Columns for a view: as many as there is room for, but never more than there are frames. */
function columnsFor(view: View, width: number): number {
  return Math.max(1, Math.min(Math.round(width), view.end - view.start, 4096));
}

// Pictures of sources outlive a change of project or station.
const pictures = new QueryClient({
  defaultOptions: { queries: { staleTime: Infinity, gcTime: 600_000 } },
});

/** The columns of a view; while the next ones are on their way, the former ones with their view. */
export function usePeaks(soundId: number, view: View, width: number) {
  const columns = columnsFor(view, width);
  return useQuery(
    {
      queryKey: ['peaks', soundId, view.start, view.end, columns],
      queryFn: async () => ({
        view,
        peaks: await call<Peaks>(
          `sounds/${soundId}/peaks?start=${view.start}&end=${view.end}&columns=${columns}`,
        ),
      }),
      placeholderData: keepPreviousData,
      enabled: width > 0 && view.end > view.start,
    },
    pictures,
  ).data;
}
