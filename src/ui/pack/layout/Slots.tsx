'use client';

import {
  DndContext,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { GripVertical, Wand2, X } from 'lucide-react';
import type { Brief } from '@/core/brief/schema';
import type { SlotState } from '@/core/pack/slots';
import type { PackPart, Sound } from '@/wire';
import { call } from '../../shared/api';
import { plural } from '../../shared/format';
import { MiddleCut } from '../../shared/MiddleCut';
import { useProject } from '../../shared/project';
import { useSettling } from './asking';

interface Filling {
  path: string;
  soundId: number | null;
}

/** Exact places that have to be filled: by dragging a sound onto one, by choosing it there, or all by name. */
export function Slots({ brief, part }: { brief: Brief; part: PackPart }) {
  const { sounds } = useProject();
  const { change, run, busy, path } = useSettling(brief.id);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const here = part.sounds.flatMap(({ soundId }) => sounds.find(({ id }) => id === soundId) ?? []);
  const fill = (fillings: readonly Filling[], say: string) =>
    change('/slots', 'POST', { fill: fillings }, say);
  const drop = ({ active, over }: DragEndEvent) => {
    if (over) void fill([{ path: String(over.id), soundId: Number(active.id) }], 'Slot filled.');
  };
  const byName = () =>
    run(async () => {
      const found = await call<Filling[]>(`${path}/slots`);
      if (found.length > 0) await fill(found, `${plural(found.length, 'slot')} filled by name.`);
    });
  const empty = part.slots.filter((slot) => slot.soundIds.length === 0 && !slot.isOptional).length;
  return (
    <section aria-label="Slots" className="border-base-300 bg-base-100 border">
      <div className="border-base-300 flex flex-wrap items-baseline gap-x-3 border-b px-4 py-2">
        <h3 className="font-serif text-lg">Slots</h3>
        <span className={empty > 0 ? 'text-warning text-xs' : 'text-soft text-xs'}>
          {empty > 0 ? `${empty} still empty` : 'all that must be filled are filled'}
        </span>
        <button
          className="btn btn-ghost btn-xs ml-auto"
          disabled={busy || empty === 0}
          title="Sounds that are called as an empty slot is go there"
          onClick={() => void byName()}
        >
          <Wand2 size={13} /> Fill by name
        </button>
      </div>
      <DndContext id={`slots-${brief.id}`} sensors={sensors} onDragEnd={drop}>
        <ul>
          {part.slots.map((slot) => (
            <Slot
              key={slot.path}
              slot={slot}
              here={here}
              busy={busy}
              onFill={(soundId) =>
                void fill(
                  [{ path: slot.path, soundId }],
                  soundId === null ? 'Slot emptied.' : 'Slot filled.',
                )
              }
            />
          ))}
        </ul>
        <div className="border-base-300 border-t px-4 py-2">
          <p className="text-soft mb-1.5 text-xs">Sounds that go here: drag one onto a slot.</p>
          <ul className="flex flex-wrap gap-1.5" aria-label="Sounds that go here">
            {here.map((sound) => (
              <Chip key={sound.id} sound={sound} />
            ))}
          </ul>
        </div>
      </DndContext>
    </section>
  );
}

function Slot({
  slot,
  here,
  busy,
  onFill,
}: {
  slot: SlotState;
  here: readonly Sound[];
  busy: boolean;
  onFill: (soundId: number | null) => void;
}) {
  const { setNodeRef, isOver } = useDroppable({ id: slot.path });
  const [first, ...others] = slot.soundIds;
  return (
    <li
      ref={setNodeRef}
      className={`border-base-300 grid grid-cols-[minmax(0,1fr)_minmax(0,12rem)_1.5rem] items-center gap-3 border-b px-4 py-1.5 last:border-0 ${
        isOver ? 'bg-primary/10 outline-primary outline-2 -outline-offset-2' : ''
      }`}
    >
      <span className="min-w-0">
        <MiddleCut text={slot.path} className="font-semibold" />
        <span className="text-soft block text-xs">
          {slot.title}
          {slot.isOptional && ' (may stay empty)'}
        </span>
      </span>
      <span className="min-w-0">
        <select
          className="select select-xs w-full"
          aria-label={`Sound for ${slot.path}`}
          value={first ?? ''}
          disabled={busy}
          onChange={({ target: { value } }) => onFill(value === '' ? null : Number(value))}
        >
          <option value="">nothing yet</option>
          {here.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
        {others.length > 0 && (
          <span className="text-warning block text-xs">
            and {others.map((id) => here.find((one) => one.id === id)?.name ?? '?').join(', ')}
          </span>
        )}
      </span>
      <button
        className="btn btn-ghost btn-xs btn-square"
        aria-label={`Empty ${slot.path}`}
        title="Empty it"
        disabled={busy || slot.soundIds.length === 0}
        onClick={() => onFill(null)}
      >
        <X size={13} />
      </button>
    </li>
  );
}

function Chip({ sound }: { sound: Sound }) {
  const { attributes, listeners, setNodeRef, transform, isDragging } = useDraggable({
    id: sound.id,
  });
  return (
    <li
      ref={setNodeRef}
      {...attributes}
      {...listeners}
      role="listitem"
      tabIndex={-1}
      aria-describedby={undefined}
      className={`border-base-300 bg-base-200 flex max-w-52 cursor-grab touch-none items-center gap-1 border px-2 py-0.5 ${
        isDragging ? 'relative z-10 cursor-grabbing opacity-80' : ''
      }`}
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined}
    >
      <GripVertical size={12} aria-hidden className="text-soft" />
      <MiddleCut text={sound.name} />
    </li>
  );
}
