import { useQuery } from '@tanstack/react-query';
import { askNumbers, askServer } from '@/player/asking';
import { unwoven } from '@/player/source';
import { wholeName } from '@/core/compare/candidates/candidate';
import type { Trial } from '@/wire';

/** One side of a pair: a candidate's file, or the sound that it was made of. */
export interface Side {
  key: string;
  label: string;
  trial: Trial;
  isSource: boolean;
}

export const SOURCE = 'source';

export function sideOf(trial: Trial, isSource: boolean): Side {
  return {
    key: isSource ? SOURCE : String(trial.id),
    label: isSource ? 'Source' : wholeName(trial.candidate),
    trial,
    isSource,
  };
}

const query = ({ isSource }: Side, more: Record<string, number>) =>
  new URLSearchParams({
    side: isSource ? SOURCE : 'decoded',
    ...Object.fromEntries(Object.entries(more).map(([name, value]) => [name, String(value)])),
  });

/** Samples of a side, at the rate at which both are compared. */
export async function readSide(
  side: Side,
  start: number,
  frames: number,
  signal?: AbortSignal,
): Promise<Float32Array[]> {
  const address = `/api/trials/${side.trial.id}/span?${query(side, { start, frames })}`;
  const woven = await askNumbers(address, { signal });
  const { channels } = side.trial.measured!.figures;
  return unwoven(woven, channels);
}

export const ROWS = 128;
export const COLUMNS = 480;

/** Levels over time and pitch of a side, column by column, low pitches first; undefined until they are there. */
export function usePicture(side: Side, start: number, end: number): Uint8Array | undefined {
  const { data } = useQuery({
    queryKey: ['trial picture', side.key, side.trial.id, start, end],
    queryFn: async ({ signal }) => {
      const more = query(side, { start, end, columns: COLUMNS, rows: ROWS });
      const response = await askServer(`/api/trials/${side.trial.id}/spectrogram?${more}`, {
        signal,
      });
      return new Uint8Array(await response.arrayBuffer());
    },
    staleTime: Infinity,
  });
  return data;
}
