'use client';

import {
  closestCenter,
  DndContext,
  PointerSensor,
  useSensor,
  useSensors,
  type Announcements,
  type DragEndEvent,
} from '@dnd-kit/core';
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { GripVertical } from 'lucide-react';
import { createContext, useContext, useState, type KeyboardEvent, type ReactNode } from 'react';

const HOW_WITH_KEYS = 'The arrow keys move it.';

/** Places that a key moves a line by. */
const stepOf: Record<string, number | undefined> = { ArrowUp: -1, ArrowDown: 1 };

/** Moves the line of an id by some places. */
const MoveLine = createContext<(id: number, by: number) => void>(() => {});

/** A list whose lines are put into another order by dragging their grips, or with the arrow keys on them. */
export function SortableList({
  id,
  label,
  ids,
  className,
  onMove,
  children,
}: {
  id: string;
  label: string;
  /** What tells its lines apart, in their order. */
  ids: readonly number[];
  className: string;
  /** Places from 0. */
  onMove: (from: number, to: number) => void;
  children: ReactNode;
}) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const [said, say] = useState('');
  const place = (id: number | string) => `${ids.indexOf(Number(id)) + 1} of ${ids.length}`;
  // Said to screen readers, in place of the library's words about its own ids.
  const announcements: Announcements = {
    onDragStart: ({ active }) => `Lifted from place ${place(active.id)}.`,
    onDragOver: ({ over }) => (over ? `Now at place ${place(over.id)}.` : undefined),
    onDragEnd: ({ over }) => (over ? `Put down at place ${place(over.id)}.` : undefined),
    onDragCancel: ({ active }) => `Left at place ${place(active.id)}.`,
  };
  const drop = ({ active, over }: DragEndEvent) => {
    if (over && over.id !== active.id) {
      onMove(ids.indexOf(Number(active.id)), ids.indexOf(Number(over.id)));
    }
  };
  // Each press is a move of its own: what it does never depends on where lines have been drawn.
  const moveLine = (line: number, by: number) => {
    const from = ids.indexOf(line);
    const to = Math.min(ids.length - 1, Math.max(0, from + by));
    say(`Now at place ${to + 1} of ${ids.length}.`);
    if (to !== from) onMove(from, to);
  };
  return (
    <DndContext
      id={id}
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={drop}
      accessibility={{ announcements, screenReaderInstructions: { draggable: HOW_WITH_KEYS } }}
    >
      <SortableContext items={[...ids]} strategy={verticalListSortingStrategy}>
        <ol aria-label={label} className={className}>
          <MoveLine value={moveLine}>{children}</MoveLine>
        </ol>
      </SortableContext>
      <p role="status" className="sr-only">
        {said}
      </p>
    </DndContext>
  );
}

interface HeldLine extends Pick<ReturnType<typeof useSortable>, 'attributes' | 'listeners'> {
  id: number;
}

const Held = createContext<HeldLine | null>(null);

/** A line of such a list; somewhere in it stands its grip. */
export function SortableLine({
  id,
  label,
  className,
  isOff = false,
  children,
}: {
  /** One of those of the list. */
  id: number;
  label: string;
  className: string;
  isOff?: boolean;
  children: ReactNode;
}) {
  const { setNodeRef, attributes, listeners, transform, transition, isDragging } = useSortable({
    id,
  });
  return (
    <li
      ref={setNodeRef}
      aria-label={label}
      data-off={isOff}
      className={`border-base-300 bg-base-100 border-b ${className} ${isDragging ? 'relative z-10 shadow-lg' : ''}`}
      style={{ transform: transform ? `translateY(${transform.y}px)` : undefined, transition }}
    >
      <Held value={{ id, attributes, listeners }}>{children}</Held>
    </li>
  );
}

/** What a line is dragged by. */
export function Grip({ label }: { label: string }) {
  const held = useContext(Held);
  const moveLine = useContext(MoveLine);
  const press = (event: KeyboardEvent) => {
    const by = stepOf[event.key];
    if (!held || by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    moveLine(held.id, by);
  };
  return (
    <button
      className="text-soft cursor-grab touch-none"
      title="Drag to another place, or press the arrow keys here"
      {...held?.attributes}
      {...held?.listeners}
      onKeyDown={press}
      aria-label={label}
    >
      <GripVertical size={15} />
    </button>
  );
}
