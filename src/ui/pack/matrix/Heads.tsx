'use client';

import { ChevronDown, ChevronRight } from 'lucide-react';
import Link from 'next/link';
import { useState, type CSSProperties, type DragEvent } from 'react';
import type { Brief } from '@/core/brief/schema';
import type { Cell, Sound } from '@/wire';
import { count, formatTime, plural, shortWhen, size } from '../../shared/format';
import { MiddleCut } from '../../shared/MiddleCut';
import { useProject } from '../../shared/project';
import { toggleFold } from './store';

/** What sounds that are dragged travel as. */
const DRAGGED = 'application/x-bijou-sounds';

/** The head of a column: a destination, how much of it is built, and where sounds are dropped on it. */
export function ColumnHead({
  brief,
  cells,
  columnIndex,
  isAt,
  onMark,
  onDropped,
}: {
  brief: Brief;
  cells: readonly Cell[];
  columnIndex: number;
  isAt: boolean;
  onMark: () => void;
  onDropped: (soundIds: number[]) => void;
}) {
  const [isOver, setOver] = useState(false);
  const built = cells.filter(({ state }) => state === 'built').length;
  const bytes = cells.reduce((sum, cell) => sum + cell.bytes, 0);
  const isFull = bytes > (brief.mostTotalBytes ?? Infinity);
  return (
    <div
      role="columnheader"
      aria-colindex={columnIndex}
      aria-label={brief.title}
      title={
        isFull
          ? `All files together may have ${count(brief.mostTotalBytes!)} bytes, and have ${count(bytes)}`
          : undefined
      }
      className={`border-base-300 flex min-w-0 flex-col justify-between border-l px-1.5 py-1 ${
        isOver ? 'bg-primary/20' : isAt ? 'bg-base-300/60' : ''
      }`}
      {...dropping(setOver, onDropped)}
    >
      <button
        className="line-clamp-2 text-left text-xs leading-tight font-semibold hyphens-auto hover:underline"
        title={`${brief.purpose} Press to mark the whole column.`}
        onClick={onMark}
      >
        {brief.title}
      </button>
      <span className="text-soft flex items-center gap-1 text-[0.7rem]">
        <progress
          className="progress progress-success h-1 min-w-0 flex-1"
          value={built}
          max={Math.max(1, cells.length)}
          aria-label={`Built for ${brief.title}`}
        />
        {count(built)}/{count(cells.length)}
      </span>
      <Rehearsed brief={brief} cells={cells} />
      {isFull && (
        <span className="text-error text-[0.65rem] leading-none font-semibold">
          {size(bytes)}: too much
        </span>
      )}
    </div>
  );
}

/** What the host of a destination said of what was built last for it. */
function Rehearsed({ brief, cells }: { brief: Brief; cells: readonly Cell[] }) {
  const { project, rehearsals } = useProject();
  if (brief.host === undefined) return null;
  const rehearsal = rehearsals.find(({ briefId }) => briefId === brief.id);
  if (!rehearsal?.said || rehearsal.state !== 'done') return null;
  const { accepted, refused, first, at } = rehearsal.said;
  const isWhole = cells.every(({ state, rehearsed }) => state === 'built' && rehearsed === '');
  // What has changed since says nothing of what is there now.
  if (accepted && !isWhole) return null;
  return (
    <Link
      href={`/p/${project.id}/rehearse/${brief.host}`}
      prefetch={false}
      className={`text-[0.65rem] leading-[1.05] font-semibold hover:underline ${
        accepted ? 'text-success' : 'text-error'
      }`}
      title={accepted ? 'Every file is accepted by its host' : `${first ?? ''} (${shortWhen(at)})`}
    >
      {accepted ? 'accepted by its host' : `its host refuses ${plural(refused, 'thing')}`}
    </Link>
  );
}

/** What makes an element one on which sounds can be dropped. */
function dropping(setOver: (is: boolean) => void, onDropped: (ids: number[]) => void) {
  const isSounds = (event: DragEvent) => event.dataTransfer.types.includes(DRAGGED);
  return {
    onDragOver(event: DragEvent) {
      if (!isSounds(event)) return;
      event.preventDefault();
      event.dataTransfer.dropEffect = 'link';
      setOver(true);
    },
    onDragLeave: () => setOver(false),
    onDrop(event: DragEvent) {
      setOver(false);
      if (!isSounds(event)) return;
      event.preventDefault();
      event.stopPropagation();
      onDropped(JSON.parse(event.dataTransfer.getData(DRAGGED)) as number[]);
    },
  };
}

/** The head of a line: a sound, which can be dragged on a destination. */
export function RowHead({
  sound,
  isAt,
  dragged,
  onMark,
}: {
  sound: Sound;
  isAt: boolean;
  /** The sounds that go along when this one is dragged. */
  dragged: () => readonly number[];
  onMark: () => void;
}) {
  return (
    <div
      role="rowheader"
      draggable
      className={`border-base-300 bg-base-100 sticky left-0 z-[2] flex min-w-0 cursor-grab items-center gap-2 border-r pr-2 pl-7 ${
        isAt ? 'font-semibold' : ''
      }`}
      onDragStart={(event) => {
        event.dataTransfer.setData(DRAGGED, JSON.stringify(dragged()));
        event.dataTransfer.effectAllowed = 'link';
      }}
    >
      <button className="min-w-0 flex-1 text-left" title="Mark this line" onClick={onMark}>
        <MiddleCut text={sound.name} />
      </button>
      {sound.language !== null && (
        <span className="border-base-300 text-soft shrink-0 rounded-sm border px-1 text-[0.65rem]">
          {sound.language}
        </span>
      )}
      <span className="text-soft shrink-0 text-xs">{formatTime(sound.facts?.seconds ?? 0, 1)}</span>
    </div>
  );
}

/** The line above a group: folds it, and says of each destination how much of it is built. */
export function GroupHead({
  group,
  sounds,
  isFolded,
  columns,
  cellAt,
  onMark,
  place,
  rowIndex,
}: {
  group: string;
  sounds: readonly Sound[];
  isFolded: boolean;
  columns: readonly Brief[];
  cellAt: (soundId: number, briefId: string) => Cell | undefined;
  onMark: () => void;
  place: CSSProperties;
  rowIndex: number;
}) {
  const Chevron = isFolded ? ChevronRight : ChevronDown;
  return (
    <div
      role="row"
      aria-rowindex={rowIndex}
      className="bg-base-200 border-base-300 absolute inset-x-0 grid border-b"
      style={place}
    >
      <div
        role="rowheader"
        className="bg-base-200 sticky left-0 z-[2] flex items-center gap-2 px-2"
      >
        <button
          className="flex min-w-0 items-center gap-1 font-semibold"
          aria-expanded={!isFolded}
          onClick={() => toggleFold(group)}
        >
          <Chevron size={15} aria-hidden className="shrink-0" />
          <MiddleCut text={group || 'no group'} />
        </button>
        <button
          className="text-soft ml-auto shrink-0 text-xs hover:underline"
          title="Mark everything of this group"
          onClick={onMark}
        >
          {plural(sounds.length, 'sound')}
        </button>
      </div>
      {columns.map(({ id }) => {
        const own = sounds.flatMap((sound) => cellAt(sound.id, id) ?? []);
        const built = own.filter(({ state }) => state === 'built').length;
        return (
          <div
            key={id}
            role="gridcell"
            className="text-soft border-base-300 flex items-center border-l px-1.5 text-xs"
          >
            {own.length > 0 && `${count(built)}/${count(own.length)}`}
          </div>
        );
      })}
    </div>
  );
}
