import { ArrowDown, ArrowUp, Filter } from 'lucide-react';
import type { PointerEvent } from 'react';
import type { TableColumn } from '@/core/collect/columns';
import { Popover } from '../../shared/Popover';
import { FilterPanel } from './FilterPanel';
import { moved, WIDTHS, type Layout } from './layout';

/** What dragging a heading carries, so that nothing else is taken for one. */
const COLUMN = 'application/x-bijou-column';

/** A heading: sorts by a click, filters, is dragged to another place or made wider. */
export function HeaderCell({
  column,
  valuesOf,
  layout,
  onLayout,
}: {
  column: TableColumn;
  valuesOf: () => { value: string; count: number }[];
  layout: Layout;
  onLayout: (change: Partial<Layout>) => void;
}) {
  const { id, title, hint, kind } = column;
  const { sort, filters } = layout;
  const desc = sort?.id === id ? sort.desc : null;
  const Arrow = desc ? ArrowDown : ArrowUp;
  const isFiltered = filters[id] !== undefined;
  const cycle = () =>
    onLayout({ sort: desc === null ? { id, desc: false } : desc ? null : { id, desc: true } });
  const setFilter = (filter: Layout['filters'][string] | null) => {
    const { [id]: former, ...others } = filters;
    void former;
    onLayout({ filters: filter ? { ...others, [id]: filter } : others });
  };
  return (
    <div
      role="columnheader"
      aria-sort={desc === null ? 'none' : desc ? 'descending' : 'ascending'}
      className={`group/head relative flex min-w-0 items-center gap-0.5 px-2 ${
        kind === 'number' ? 'flex-row-reverse' : ''
      }`}
      draggable
      onDragStart={(event) => event.dataTransfer.setData(COLUMN, id)}
      onDragOver={(event) => {
        if (event.dataTransfer.types.includes(COLUMN)) event.preventDefault();
      }}
      onDrop={(event) => {
        const dragged = event.dataTransfer.getData(COLUMN);
        if (dragged && dragged !== id) onLayout({ order: moved(layout.order, dragged, id) });
      }}
    >
      <button
        className={`text-soft hover:text-base-content min-w-0 text-xs leading-tight font-semibold ${
          kind === 'number' ? 'text-right' : 'text-left'
        }`}
        title={`${hint ? `${hint}. ` : ''}Click to sort`}
        onClick={cycle}
      >
        {title}
        {desc !== null && <Arrow size={12} className="text-primary ml-0.5 inline" aria-hidden />}
      </button>
      <Popover
        label={`Filter by ${title}`}
        face={<Filter size={12} fill={isFiltered ? 'currentColor' : 'none'} />}
        className={`shrink-0 rounded p-0.5 ${
          isFiltered
            ? 'text-primary'
            : 'text-soft opacity-0 group-hover/head:opacity-100 focus:opacity-100'
        }`}
      >
        {(close) => (
          <FilterPanel
            column={column}
            values={kind === 'text' ? [] : valuesOf()}
            filter={filters[id] ?? {}}
            onFilter={setFilter}
            onDone={close}
          />
        )}
      </Popover>
      <Edge column={column} layout={layout} onLayout={onLayout} />
    </div>
  );
}

/** The right edge of a column, to be dragged. */
function Edge({
  column: { id, title, width },
  layout: { widths },
  onLayout,
}: {
  column: TableColumn;
  layout: Layout;
  onLayout: (change: Partial<Layout>) => void;
}) {
  const grab = (event: PointerEvent<HTMLDivElement>) => {
    event.preventDefault();
    const edge = event.currentTarget;
    const startX = event.clientX;
    const startWidth = edge.parentElement!.offsetWidth;
    edge.setPointerCapture(event.pointerId);
    edge.onpointermove = ({ clientX }) => {
      const wanted = Math.round(startWidth + clientX - startX);
      const held = Math.max(WIDTHS.least, Math.min(WIDTHS.most, wanted));
      onLayout({ widths: { ...widths, [id]: held } });
    };
    edge.onpointerup = () => {
      edge.onpointermove = null;
    };
  };
  return (
    <div
      role="presentation"
      title={`Drag to make “${title}” wider; double-click for its usual ${width} pixels`}
      className="hover:bg-primary/40 absolute inset-y-1 right-0 w-1.5 cursor-col-resize"
      onPointerDown={grab}
      onDoubleClick={() => {
        const { [id]: former, ...others } = widths;
        void former;
        onLayout({ widths: others });
      }}
    />
  );
}
