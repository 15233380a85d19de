'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef } from 'react';
import type { Sound } from '@/wire';
import { groupBy } from '@/core/group';
import { CellBox, type CellActions } from './CellBox';
import { ColumnHead, GroupHead, RowHead } from './Heads';
import type { MatrixView } from './rows';
import { markAll, toggleMarks, useMatrix, type Place } from './store';

const ROW_PIXELS = 32;
const HEAD_PIXELS = 60;
const NAME_PIXELS = 224;
const LEAST_COLUMN_PIXELS = 78;
const MOST_COLUMN_PIXELS = 150;

/** Sounds down, destinations across. Only what is in view is on the page, however much there is. */
export function Grid({
  view,
  actions,
  onSend,
}: {
  view: MatrixView;
  actions: CellActions;
  onSend: (soundIds: readonly number[], briefId: string) => void;
}) {
  const { rows, columns, cellAt } = view;
  const scroller = useRef<HTMLDivElement>(null);
  const at = useMatrix((state) => state.at);
  const template = `${NAME_PIXELS}px repeat(${columns.length}, minmax(${LEAST_COLUMN_PIXELS}px, ${MOST_COLUMN_PIXELS}px))`;
  const least = NAME_PIXELS + columns.length * LEAST_COLUMN_PIXELS;
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_PIXELS,
    overscan: 8,
    scrollMargin: HEAD_PIXELS,
    scrollPaddingStart: HEAD_PIXELS,
    // Before the page knows its own size: what fits a usual window.
    initialRect: { width: 1200, height: 600 },
    getItemKey: (index) => keyOf(rows[index]!),
  });
  const atRow = rows.findIndex((row) => row.kind === 'sound' && row.sound.id === at?.soundId);
  useEffect(() => {
    if (atRow >= 0) virtual.scrollToIndex(atRow, { align: 'auto' });
  }, [virtual, atRow]);
  const byBrief = groupBy(view.cells, ({ briefId }) => briefId);
  const across = (sounds: readonly Sound[]): Place[] =>
    sounds.flatMap(({ id }) => columns.map((brief) => ({ soundId: id, briefId: brief.id })));
  /** Where several lines are marked, all of them go along. */
  const dragged = (id: number) => {
    const marked = new Set(
      [...useMatrix.getState().marked].map((name) => Number(name.split(' ')[0])),
    );
    return marked.has(id) ? [...marked] : [id];
  };

  return (
    <div
      ref={scroller}
      role="grid"
      aria-label="Sounds and destinations"
      aria-rowcount={rows.length + 1}
      aria-colcount={columns.length + 1}
      aria-multiselectable
      aria-activedescendant={at ? `cell-${at.soundId}-${at.briefId}` : undefined}
      tabIndex={0}
      className="border-base-300 bg-base-100 focus-visible:outline-primary min-h-48 min-w-0 flex-1 overflow-auto border focus-visible:outline-2"
    >
      <div style={{ minWidth: least }}>
        <div
          role="row"
          aria-rowindex={1}
          className="bg-base-200 border-base-300 sticky top-0 z-[3] grid items-stretch border-b"
          style={{ gridTemplateColumns: template, height: HEAD_PIXELS }}
        >
          <div
            role="columnheader"
            className="bg-base-200 text-soft sticky left-0 flex items-end px-2 pb-1 text-xs font-semibold"
          >
            Sound
          </div>
          {columns.map((brief, c) => (
            <ColumnHead
              key={brief.id}
              brief={brief}
              cells={byBrief.get(brief.id) ?? []}
              columnIndex={c + 2}
              isAt={at?.briefId === brief.id}
              onMark={() =>
                markAll(view.listed.map(({ id }) => ({ soundId: id, briefId: brief.id })))
              }
              onDropped={(ids) => onSend(ids, brief.id)}
            />
          ))}
        </div>
        <div role="rowgroup" className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index, start, key }) => {
            const row = rows[index]!;
            const place = {
              gridTemplateColumns: template,
              transform: `translateY(${start - HEAD_PIXELS}px)`,
              height: ROW_PIXELS,
            };
            if (row.kind === 'group') {
              return (
                <GroupHead
                  key={key}
                  {...row}
                  columns={columns}
                  cellAt={cellAt}
                  onMark={() => toggleMarks(across(row.sounds))}
                  place={place}
                  rowIndex={index + 2}
                />
              );
            }
            const { sound } = row;
            return (
              <div
                key={key}
                role="row"
                aria-rowindex={index + 2}
                className="border-base-300 absolute inset-x-0 grid border-b"
                style={place}
              >
                <RowHead
                  sound={sound}
                  isAt={at?.soundId === sound.id}
                  dragged={() => dragged(sound.id)}
                  onMark={() => toggleMarks(across([sound]))}
                />
                {columns.map((brief, c) => (
                  <CellBox
                    key={brief.id}
                    place={{ soundId: sound.id, briefId: brief.id }}
                    cell={cellAt(sound.id, brief.id)}
                    brief={brief}
                    soundName={sound.name}
                    columnIndex={c + 2}
                    actions={actions}
                  />
                ))}
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}

function keyOf(row: MatrixView['rows'][number]): string {
  return row.kind === 'group' ? `group ${row.group}` : `sound ${row.sound.id}`;
}
