import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { usualColumnIds } from '@/core/compare/columns';
import { usualLoad } from '@/core/compare/load';
import type { LoadSettings } from '@/core/compare/load';

/** How the trials of a run are looked at. */
interface Look {
  /** null: the middle of all sounds. */
  soundId: number | null;
  /** Row that is pointed at, in the table or in the picture. */
  pointed: string | null;
  sort: { column: string; isFalling: boolean } | null;
  columns: readonly string[];
  /** The brief whose limits are drawn in; null for none. */
  briefId: string | null;
  /** How voices are played, for what they need. */
  load: LoadSettings;
}

const usualColumns = [...usualColumnIds, 'voicesPerCore'];

export const useLook = create<Look>()(
  persist(
    (): Look => ({
      soundId: null,
      pointed: null,
      sort: null,
      columns: usualColumns,
      briefId: null,
      load: { ...usualLoad, voices: 32 },
    }),
    // Which columns somebody wants stays; what is looked at does not.
    { name: 'bijou compare', partialize: ({ columns }) => ({ columns }) },
  ),
);

export function point(key: string | null): void {
  if (useLook.getState().pointed !== key) useLook.setState({ pointed: key });
}

/** Sorts by a column; once more turns it round, a third time gives up. */
export function sortBy(column: string, bestFalls: boolean): void {
  const { sort } = useLook.getState();
  if (sort?.column !== column) useLook.setState({ sort: { column, isFalling: bestFalls } });
  else if (sort.isFalling === bestFalls) {
    useLook.setState({ sort: { column, isFalling: !bestFalls } });
  } else useLook.setState({ sort: null });
}

export function toggleColumn(id: string, order: readonly string[]): void {
  const { columns } = useLook.getState();
  const next = columns.includes(id) ? columns.filter((one) => one !== id) : [...columns, id];
  useLook.setState({ columns: order.filter((one) => next.includes(one)) });
}
