import { useMemo } from 'react';
import { storedBrief } from '@/core/brief/catalogue';
import type { Brief } from '@/core/brief/schema';
import { groupBy } from '@/core/group';
import { cellText, tableRow } from '@/core/collect/columns';
import type { Cell, CellState, Sound, TableLayout } from '@/wire';
import { columnsById, readLayout } from '../../collect/table/layout';
import { useProject } from '../../shared/project';
import { useMatrix } from './store';

/** A line of the matrix: a group's heading, or a sound. */
type Row =
  | { kind: 'group'; group: string; sounds: readonly Sound[]; isFolded: boolean }
  | { kind: 'sound'; sound: Sound };

/** What the matrix shows, and what is in it beyond that. */
export interface MatrixView {
  rows: readonly Row[];
  /** Sounds that are listed, folded ones among them. */
  listed: readonly Sound[];
  columns: readonly Brief[];
  /** Destinations that are left out because nothing goes there. */
  otherBriefs: readonly Brief[];
  cellAt(soundId: number, briefId: string): Cell | undefined;
  /** Cells of listed sounds in the columns that are shown. */
  cells: readonly Cell[];
  /** How many cells are in each state, whatever is filtered. */
  counts: Readonly<Partial<Record<CellState, number>>>;
}

const collator = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });
const byName = (a: Sound, b: Sound) =>
  collator.compare(a.group, b.group) || collator.compare(a.name, b.name);

/** Sounds are in the groups that Collect puts them in; without any there, in their own. */
function groupingOf(layout: TableLayout): (sound: Sound) => string {
  const column = columnsById.get(readLayout(layout).groupBy ?? 'group');
  if (!column || column.id === 'group') return ({ group }) => group;
  return (sound) => cellText(column, tableRow(sound, []));
}

export function useMatrixView(): MatrixView {
  const { sounds, cells, briefs, layout } = useProject();
  const groupOf = useMemo(() => groupingOf(layout), [layout]);
  const search = useMatrix((state) => state.search.trim().toLowerCase());
  const states = useMatrix((state) => state.states);
  const folded = useMatrix((state) => state.folded);
  const isWide = useMatrix((state) => state.isWide);

  const sorted = useMemo(
    () =>
      sounds
        .filter(({ facts }) => facts !== null)
        .sort((a, b) => collator.compare(groupOf(a), groupOf(b)) || byName(a, b)),
    [sounds, groupOf],
  );
  const index = useMemo(() => {
    const bySound = new Map<number, Map<string, Cell>>();
    const counts: Partial<Record<CellState, number>> = {};
    for (const cell of cells) {
      const own = bySound.get(cell.soundId) ?? new Map<string, Cell>();
      bySound.set(cell.soundId, own);
      own.set(cell.briefId, cell);
      counts[cell.state] = (counts[cell.state] ?? 0) + 1;
    }
    return { bySound, counts, byBrief: groupBy(cells, ({ briefId }) => briefId) };
  }, [cells]);
  const { columns, otherBriefs } = useMemo(
    () => columnsOf(briefs, [...index.byBrief.keys()], isWide),
    [briefs, index, isWide],
  );
  return useMemo(() => {
    const shown = new Set(columns.map(({ id }) => id));
    const ownCells = ({ id }: Sound) => [...(index.bySound.get(id)?.values() ?? [])];
    const isFound = ({ name, group }: Sound) =>
      search === '' || `${group} ${name}`.toLowerCase().includes(search);
    const isWanted = (sound: Sound) =>
      states.size === 0 ||
      ownCells(sound).some(({ state, briefId }) => shown.has(briefId) && states.has(state));
    const listed = sorted.filter((sound) => isFound(sound) && isWanted(sound));
    const rows = [...groupBy(listed, groupOf)].flatMap(([group, own]): Row[] => {
      const isFolded = folded.has(group);
      const head: Row = { kind: 'group', group, sounds: own, isFolded };
      return [head, ...(isFolded ? [] : own.map((sound): Row => ({ kind: 'sound', sound })))];
    });
    return {
      rows,
      listed,
      columns,
      otherBriefs,
      cellAt: (soundId, briefId) => index.bySound.get(soundId)?.get(briefId),
      cells: listed.flatMap(ownCells).filter(({ briefId }) => shown.has(briefId)),
      counts: index.counts,
    };
  }, [sorted, index, columns, otherBriefs, search, states, folded, groupOf]);
}

/** Those to which something goes; all where nothing goes anywhere, or all are wanted. */
function columnsOf(briefs: readonly Brief[], used: readonly string[], isWide: boolean) {
  const unknown = used.filter((id) => !briefs.some((brief) => brief.id === id));
  const all = [...briefs, ...unknown.map((id) => storedBrief(briefs, id))];
  const isShown = ({ id }: Brief) => isWide || used.length === 0 || used.includes(id);
  return {
    columns: all.filter(isShown),
    otherBriefs: all.filter(({ id }) => !used.includes(id)),
  };
}
