'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef } from 'react';
import type { Call } from '@/core/pack/calls/calls';
import type { PackTrouble } from '@/core/pack/troubles';
import { CallRow } from './CallRow';

/** As a row with one variant is high, in pixels. */
const ROW_HEIGHT = 74;

/** Calls, only those drawn that are in view: there may be thousands. */
export function CallList({
  briefId,
  calls,
  search,
  problems,
  onChange,
  onSplit,
}: {
  briefId: string;
  calls: readonly Call[];
  search: string;
  /** By the place of the call. */
  problems: ReadonlyMap<number, readonly PackTrouble[]>;
  onChange: (index: number, call: Call | null, say?: string) => void;
  onSplit: (index: number) => void;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const listed = calls.flatMap((call, index) =>
    words.every((word) => call.id.toLowerCase().includes(word)) ? [index] : [],
  );
  const rows = useVirtualizer({
    count: listed.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    getItemKey: (row) => listed[row]!,
    overscan: 8,
  });
  if (listed.length === 0) {
    return (
      <p className="text-soft border-base-300 bg-base-100 border px-4 py-6 text-center">
        {calls.length === 0
          ? 'There is no call yet. Have them made of names, or drop sounds here.'
          : 'No call has that in its id.'}
      </p>
    );
  }
  return (
    <div
      ref={scroller}
      className="border-base-300 bg-base-100 max-h-[62vh] overflow-y-auto border"
      tabIndex={0}
      role="list"
      aria-label="Calls"
    >
      <div className="relative" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map(({ index: row, key, start }) => {
          const index = listed[row]!;
          return (
            <div
              key={key}
              ref={rows.measureElement}
              data-index={row}
              role="listitem"
              className="absolute inset-x-0 top-0"
              style={{ transform: `translateY(${start}px)` }}
            >
              <CallRow
                briefId={briefId}
                call={calls[index]!}
                index={index}
                problems={problems.get(index) ?? []}
                onChange={(call, say) => onChange(index, call, say)}
                onSplit={() => onSplit(index)}
              />
            </div>
          );
        })}
      </div>
    </div>
  );
}
