'use client';

import { Plus } from 'lucide-react';
import { memo } from 'react';
import type { Brief } from '@/core/brief/schema';
import type { Cell } from '@/wire';
import { size } from '../../shared/format';
import { signOf } from './states';
import { placeName, useMatrix, type Place } from './store';

export interface CellActions {
  onPoint(place: Place, how: { toggle: boolean; extend: boolean }): void;
  onOpen(place: Place): void;
}

/** One sound at one brief: its state by sign and word, or its size once it is built. */
export const CellBox = memo(function CellBox({
  place,
  cell,
  brief,
  soundName,
  columnIndex,
  actions,
}: {
  place: Place;
  cell: Cell | undefined;
  brief: Brief;
  soundName: string;
  columnIndex: number;
  actions: CellActions;
}) {
  const name = placeName(place);
  const isMarked = useMatrix(({ marked }) => marked.has(name));
  const isAt = useMatrix(({ at }) => at !== null && placeName(at) === name);
  const sign = cell && signOf(cell);
  const Icon = sign?.icon ?? Plus;
  return (
    <div
      role="gridcell"
      id={`cell-${place.soundId}-${place.briefId}`}
      aria-selected={isMarked}
      aria-colindex={columnIndex}
      aria-label={`${soundName} at ${brief.title}: ${sign ? (sign.said ?? sign.word) : 'not sent'}`}
      title={sign ? sign.said : `Send “${soundName}” to ${brief.title}: double-click, or A`}
      className={`border-base-300 group/cell flex min-w-0 cursor-default items-center gap-1 border-l px-1.5 text-xs select-none ${
        isMarked ? 'bg-primary/15' : 'hover:bg-base-200'
      } ${isAt ? 'outline-primary z-[1] outline-2 -outline-offset-2' : ''}`}
      onClick={(event) =>
        actions.onPoint(place, {
          toggle: event.ctrlKey || event.metaKey,
          extend: event.shiftKey,
        })
      }
      onDoubleClick={() => actions.onOpen(place)}
    >
      {sign ? (
        <span className={`flex min-w-0 items-center gap-1 ${sign.className}`}>
          <Icon
            size={14}
            aria-hidden
            className={`shrink-0 ${cell.state === 'working' ? 'motion-safe:animate-spin' : ''}`}
          />
          <span className="truncate">
            {cell.state === 'built' && !cell.rehearsed ? size(cell.bytes) : sign.word}
          </span>
        </span>
      ) : (
        <Icon size={13} aria-hidden className="text-soft opacity-0 group-hover/cell:opacity-60" />
      )}
    </div>
  );
});
