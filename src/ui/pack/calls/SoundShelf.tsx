'use client';

import { useDraggable } from '@dnd-kit/core';
import { GripVertical } from 'lucide-react';
import { useState } from 'react';
import type { Call } from '@/core/pack/calls/calls';
import type { PackPart, Sound } from '@/wire';
import { MiddleCut } from '../../shared/MiddleCut';
import { useProject } from '../../shared/project';

/** So many are shown; the rest is found by its name. */
const MOST_SHOWN = 100;

/** The sounds that go to a destination, to be dragged into its calls. */
export function SoundShelf({ part, calls }: { part: PackPart; calls: readonly Call[] }) {
  const { sounds } = useProject();
  const [search, setSearch] = useState('');
  const used = new Set(calls.flatMap(({ variants }) => variants.map(({ soundId }) => soundId)));
  const here = new Set(part.sounds.map(({ soundId }) => soundId));
  const found = sounds.filter(
    ({ id, name }) => here.has(id) && name.toLowerCase().includes(search.toLowerCase()),
  );
  return (
    <section
      aria-label="Sounds that go here"
      className="border-base-300 bg-base-100 border px-3 py-2"
    >
      <h3 className="font-serif text-lg">Sounds that go here</h3>
      <p className="text-soft text-xs">Drag one onto a call: it becomes a variant.</p>
      <input
        type="search"
        className="input input-xs my-2 w-full"
        placeholder="Search"
        aria-label="Search sounds that go here"
        value={search}
        onChange={(event) => setSearch(event.target.value)}
      />
      <ul className="max-h-[46vh] space-y-1 overflow-y-auto" tabIndex={0} aria-label="Sounds">
        {found.slice(0, MOST_SHOWN).map((sound) => (
          <Line key={sound.id} sound={sound} isUsed={used.has(sound.id)} />
        ))}
      </ul>
      {found.length > MOST_SHOWN && (
        <p className="text-soft mt-1 text-xs">{found.length - MOST_SHOWN} more: search for them.</p>
      )}
    </section>
  );
}

function Line({ sound, isUsed }: { sound: Sound; isUsed: boolean }) {
  const { listeners, setNodeRef, transform, isDragging } = useDraggable({ id: sound.id });
  return (
    <li
      ref={setNodeRef}
      {...listeners}
      className={`border-base-300 bg-base-200 flex cursor-grab touch-none items-center gap-1 border px-1.5 py-0.5 ${
        isDragging ? 'relative z-10 cursor-grabbing opacity-80' : ''
      }`}
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined}
    >
      <GripVertical size={12} aria-hidden className="text-soft shrink-0" />
      <MiddleCut text={sound.name} className="flex-1" />
      {!isUsed && <span className="text-warning shrink-0 text-xs">no call</span>}
    </li>
  );
}
