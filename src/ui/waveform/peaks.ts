import { keepPreviousData, QueryClient, useQuery } from '@tanstack/react-query';
import type { Sound } from '@/wire';
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
export function usePeaks(
  { id, sourceSha256 }: Pick<Sound, 'id' | 'sourceSha256'>,
  view: View,
  width: number,
) {
  const columns = columnsFor(view, width);
  return useQuery(
    {
      queryKey: ['peaks', sourceSha256, view.start, view.end, columns],
      queryFn: async () => ({
        view,
        peaks: await call<Peaks>(
          // The source is named so that its picture is not taken for the one of a source that replaced it.
          `sounds/${id}/peaks?start=${view.start}&end=${view.end}&columns=${columns}&of=${sourceSha256}`,
        ),
      }),
      placeholderData: keepPreviousData,
      enabled: width > 0 && view.end > view.start,
    },
    pictures,
  ).data;
}
