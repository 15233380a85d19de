'use client';

import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type Announcements,
  type DragEndEvent,
} from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { GripVertical } from 'lucide-react';
import { createContext, useContext, type ReactNode } from 'react';

const HOW_WITH_KEYS = 'With the keys: Space, arrows, Space; Escape leaves it where it was.';

/** A list whose lines are put into another order by dragging, or with the keys. */
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
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
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
          {children}
        </ol>
      </SortableContext>
    </DndContext>
  );
}

const Held = createContext<Pick<ReturnType<typeof useSortable>, 'attributes' | 'listeners'> | null>(
  null,
);

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
      <Held value={{ attributes, listeners }}>{children}</Held>
    </li>
  );
}

/** What a line is dragged by. */
export function Grip({ label }: { label: string }) {
  const held = useContext(Held);
  return (
    <button
      className="text-soft cursor-grab touch-none"
      title="Drag to another place; with the keys: Space, arrows, Space"
      {...held?.attributes}
      {...held?.listeners}
      aria-label={label}
    >
      <GripVertical size={15} />
    </button>
  );
}
