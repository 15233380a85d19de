'use client';

import {
  getCoreRowModel,
  getExpandedRowModel,
  getFilteredRowModel,
  getGroupedRowModel,
  getSortedRowModel,
  useReactTable,
  type ColumnDef,
} from '@tanstack/react-table';
import { useMemo, useState } from 'react';
import { destinationsBySound } from '@/core/brief/catalogue';
import { cellText, tableColumns, tableRow, type TableRow } from '@/core/collect/columns';
import type { ProjectState, Sound } from '@/wire';
import { isFound, passes, type ColumnFilter } from './filters';
import type { Layout } from './layout';

/** A sound with its line of the table. */
export interface Entry {
  sound: Sound;
  row: TableRow;
}

const collator = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

const definitions: ColumnDef<Entry>[] = tableColumns.map((column) => ({
  id: column.id,
  // Lines without a value stand behind all others, whichever way it is sorted.
  accessorFn: ({ row }) => column.value(row) ?? undefined,
  sortUndefined: 'last',
  sortingFn: (a, b, id) => compared(a.getValue(id), b.getValue(id)),
  filterFn: ({ original }, _, filter) => passes(column, original.row, filter as ColumnFilter),
  getGroupingValue: ({ row }) => cellText(column, row),
}));

function compared(a: unknown, b: unknown): number {
  if (typeof a === 'number' && typeof b === 'number') return a - b;
  return collator.compare(String(a), String(b));
}

/** The sounds as the layout wants to see them: searched, filtered, sorted and put in groups. */
export function useSoundTable(
  sounds: readonly Sound[],
  state: Pick<ProjectState, 'cells' | 'briefs'>,
  layout: Layout,
  search: string,
) {
  const entries = useEntries(sounds, state);
  const worried = useMemo(
    () => (layout.worry === null ? entries : entries.filter((one) => has(one, layout.worry!))),
    [entries, layout.worry],
  );
  const [expanded, setExpanded] = useState<true | Record<string, boolean>>(true);
  // The table works anew whenever one of these is another object.
  const arranged = useMemo(
    () => ({
      sorting: sortingOf(layout),
      columnFilters: Object.entries(layout.filters).map(([id, value]) => ({ id, value })),
      grouping: layout.groupBy ? [layout.groupBy] : [],
    }),
    [layout],
  );
  return useReactTable({
    data: worried,
    columns: definitions,
    getRowId: ({ sound }) => String(sound.id),
    state: { ...arranged, globalFilter: search.trim(), expanded },
    onExpandedChange: setExpanded,
    globalFilterFn: ({ original }, _, words: string) => isFound(original.row, words),
    getColumnCanGlobalFilter: ({ id }) => id === tableColumns[0]!.id,
    // Setting its state back while the page is taking over would make it begin again and again.
    autoResetAll: false,
    getCoreRowModel: getCoreRowModel(),
    getFilteredRowModel: getFilteredRowModel(),
    getSortedRowModel: getSortedRowModel(),
    getGroupedRowModel: getGroupedRowModel(),
    getExpandedRowModel: getExpandedRowModel(),
  });
}

/** Groups stand in their own order; what is sorted is what is in them. */
function sortingOf({ sort, groupBy }: Layout): { id: string; desc: boolean }[] {
  const groups = groupBy && sort?.id !== groupBy ? [{ id: groupBy, desc: false }] : [];
  return [...groups, ...(sort ? [sort] : [])];
}

const made = new WeakMap<Sound, { usedIn: string; entry: Entry }>();

/** Lines of the table; those whose sound did not change stay the same objects. */
function useEntries(
  sounds: readonly Sound[],
  { cells, briefs }: Pick<ProjectState, 'cells' | 'briefs'>,
): Entry[] {
  return useMemo(() => {
    const destinations = destinationsBySound(cells, briefs);
    return sounds.map((sound) => {
      const usedIn = destinations.get(sound.id) ?? [];
      const known = made.get(sound);
      if (known?.usedIn === usedIn.join()) return known.entry;
      const entry = { sound, row: tableRow(sound, usedIn) };
      made.set(sound, { usedIn: usedIn.join(), entry });
      return entry;
    });
  }, [sounds, cells, briefs]);
}

/** A sound that still worries somebody, about one thing or about any. */
export const ANY_WORRY = 'any';
export const SET_ASIDE = 'set-aside';

function has({ sound }: Entry, code: string): boolean {
  return sound.worries.some((worry) => {
    if (code === SET_ASIDE) return worry.state === 'set-aside';
    return worry.state === 'open' && (code === ANY_WORRY || worry.code === code);
  });
}

export type SoundTable = ReturnType<typeof useSoundTable>;
