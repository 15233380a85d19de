import { tableColumns, type TableColumn } from '@/core/collect/columns';
import type { TableLayout } from '@/wire';
import { tidyFilter, type ColumnFilter } from './filters';

/** How the table is laid out, as it is remembered with the project. */
export interface Layout {
  /** Every column, in the order in which they stand. */
  order: string[];
  shown: string[];
  /** In pixels; columns that are not named have their usual width. */
  widths: Record<string, number>;
  sort: { id: string; desc: boolean } | null;
  filters: Record<string, ColumnFilter>;
  /** Code of the worry that sounds must have. */
  worry: string | null;
  groupBy: string | null;
  /** Whether a sound is heard as soon as it is chosen. */
  hear: boolean;
  /** Whether the picture of sizes is open. */
  sizes: boolean;
}

const ids = tableColumns.map(({ id }) => id);
const known = new Set(ids);

/** What a table can be put in groups by. */
export const groupings = ['group', 'folder', 'format', 'sampleRateHz', 'channels'];

/** Narrowest and widest that a column can be dragged to. */
export const WIDTHS = { least: 56, most: 640 };

/** The layout that was remembered, with what it does not say as it is at first. */
export function readLayout(stored: TableLayout): Layout {
  const { order, shown, widths, sort, filters, worry, groupBy, hear, sizes } =
    stored as Partial<Layout>;
  const ordered = strings(order).filter((id) => known.has(id));
  return {
    // Columns that are newer than the layout stand behind.
    order: [...ordered, ...ids.filter((id) => !ordered.includes(id))],
    shown: Array.isArray(shown)
      ? strings(shown).filter((id) => known.has(id))
      : tableColumns.filter((column) => column.shown).map(({ id }) => id),
    widths: Object.fromEntries(
      Object.entries(widths ?? {}).filter(([id, width]) => known.has(id) && Number.isFinite(width)),
    ),
    sort: readSort(sort),
    filters: Object.fromEntries(
      Object.entries(filters ?? {}).flatMap(([id, filter]) => {
        const tidy = known.has(id) ? tidyFilter(filter) : null;
        return tidy ? [[id, tidy]] : [];
      }),
    ),
    worry: typeof worry === 'string' ? worry : null,
    groupBy: groupBy && groupings.includes(groupBy) ? groupBy : null,
    hear: hear === true,
    sizes: sizes === true,
  };
}

/** By name at first; null is the order in which sounds came in. */
function readSort(sort: Layout['sort'] | undefined): Layout['sort'] {
  if (sort === null) return null;
  const isKnown = typeof sort === 'object' && known.has(sort.id);
  return isKnown ? { id: sort.id, desc: Boolean(sort.desc) } : { id: 'name', desc: false };
}

function strings(value: unknown): string[] {
  return Array.isArray(value) ? value.filter((one) => typeof one === 'string') : [];
}

/** The order with one column in front of another, or at the end. */
export function moved(order: readonly string[], id: string, before: string | null): string[] {
  const others = order.filter((one) => one !== id);
  const at = before === null ? others.length : others.indexOf(before);
  return at < 0 ? [...order] : [...others.slice(0, at), id, ...others.slice(at)];
}

/** The order with a column one place nearer to the start or the end of those that are shown. */
export function nudged({ order, shown }: Layout, id: string, by: -1 | 1): string[] {
  const visible = order.filter((one) => shown.includes(one));
  const at = visible.indexOf(id);
  if (by === -1) return at > 0 ? moved(order, id, visible[at - 1]!) : order.slice();
  return at < visible.length - 1 ? moved(order, id, visible[at + 2] ?? null) : order.slice();
}

/** Columns by their ids. */
export const columnsById: ReadonlyMap<string, TableColumn> = new Map(
  tableColumns.map((column) => [column.id, column]),
);

/** The columns that are shown, in their order. */
export function shownColumns({ order, shown }: Layout): TableColumn[] {
  return order.filter((id) => shown.includes(id)).flatMap((id) => columnsById.get(id) ?? []);
}
