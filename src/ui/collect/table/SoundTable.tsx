'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef } from 'react';
import { cellText, type TableColumn } from '@/core/collect/columns';
import { useChoice } from '../choice';
import { GroupLine } from './GroupLine';
import { HeaderCell } from './HeaderCell';
import { columnsById, shownColumns, type Layout } from './layout';
import { SoundLine, type LineActions } from './SoundLine';
import type { SoundTable as Table } from './useSoundTable';

const ROW_PIXELS = 44;
const LISTEN_PIXELS = 172;
/** The heading stands over the list while it is scrolled. */
const HEAD_PIXELS = 40;
/** Left and right inside a cell. */
const PADDING = 16;

/** The list of sounds. Only the lines in view are on the page, however many there are. */
export function SoundTable({
  table,
  layout,
  onLayout,
  actions,
}: {
  table: Table;
  layout: Layout;
  onLayout: (change: Partial<Layout>) => void;
  actions: LineActions;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const { rows } = table.getRowModel();
  const { ids, lead } = useChoice();
  const columns = shownColumns(layout);
  const widthOf = ({ id, width }: TableColumn) => layout.widths[id] ?? width;
  // The name takes what is left over.
  const template = [
    `${LISTEN_PIXELS}px`,
    ...columns.map((column) =>
      column.id === 'name' ? `minmax(${widthOf(column)}px, 1fr)` : `${widthOf(column)}px`,
    ),
  ].join(' ');
  const least = columns.reduce((sum, column) => sum + widthOf(column), LISTEN_PIXELS);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_PIXELS,
    overscan: 5,
    scrollMargin: HEAD_PIXELS,
    scrollPaddingStart: HEAD_PIXELS,
    // Before the page knows its own size: what fits a usual window.
    initialRect: { width: 1200, height: 700 },
    getItemKey: (index) => rows[index]!.id,
  });
  const leadAt = rows.findIndex((row) => !row.getIsGrouped() && row.original.sound.id === lead);
  useEffect(() => {
    if (leadAt >= 0) virtual.scrollToIndex(leadAt, { align: 'auto' });
  }, [virtual, leadAt]);

  return (
    <div
      ref={scroller}
      role="grid"
      aria-label="Sounds"
      aria-rowcount={rows.length + 1}
      aria-multiselectable
      className="border-base-300 bg-base-100 has-[[role=rowgroup]:focus-visible]:outline-primary min-h-48 flex-1 overflow-auto border -outline-offset-2 has-[[role=rowgroup]:focus-visible]:outline-2"
    >
      <div style={{ minWidth: least }}>
        <div
          role="row"
          aria-rowindex={1}
          className="bg-base-200 border-base-300 sticky top-0 z-10 grid items-stretch border-b"
          style={{ gridTemplateColumns: template, height: HEAD_PIXELS }}
        >
          <div role="columnheader" className="text-soft self-center pl-4 text-xs font-semibold">
            Listen
          </div>
          {columns.map((column) => (
            <HeaderCell
              key={column.id}
              column={column}
              valuesOf={() => valuesOf(table, column)}
              layout={layout}
              onLayout={onLayout}
            />
          ))}
        </div>
        {/* Behind the headings, so that what is done with sounds is a few steps from the list. */}
        <div
          role="rowgroup"
          tabIndex={0}
          className="relative outline-none"
          style={{ height: virtual.getTotalSize() }}
        >
          {virtual.getVirtualItems().map(({ index, start, key }) => {
            const row = rows[index]!;
            const place = {
              gridTemplateColumns: template,
              transform: `translateY(${start - HEAD_PIXELS}px)`,
              height: ROW_PIXELS,
            };
            if (row.getIsGrouped()) {
              return (
                <GroupLine
                  key={key}
                  title={String(row.getGroupingValue(row.groupingColumnId!) || 'none')}
                  entries={row.getLeafRows().map(({ original }) => original)}
                  isOpen={row.getIsExpanded()}
                  onToggle={row.getToggleExpandedHandler()}
                  onChooseAll={actions.onChooseAll}
                  place={place}
                  rowIndex={index + 2}
                />
              );
            }
            const { sound } = row.original;
            return (
              <SoundLine
                key={key}
                entry={row.original}
                columns={columns}
                worriesWidth={widthOf(columnsById.get('worries')!) - PADDING}
                isChosen={ids.has(sound.id)}
                isLead={lead === sound.id}
                place={place}
                rowIndex={index + 2}
                actions={actions}
              />
            );
          })}
        </div>
      </div>
    </div>
  );
}

/** Few enough to be ticked one by one. */
const MOST_VALUES = 24;

/** The values that a column has among all sounds, with how many have each; none where there are too many. */
function valuesOf(table: Table, column: TableColumn): { value: string; count: number }[] {
  const counts = new Map<string, number>();
  for (const { original } of table.getCoreRowModel().flatRows) {
    const text = cellText(column, original.row);
    counts.set(text, (counts.get(text) ?? 0) + 1);
    if (counts.size > MOST_VALUES) return [];
  }
  return [...counts].map(([value, count]) => ({ value, count }));
}
