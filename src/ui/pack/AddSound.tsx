'use client';

import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { Brief } from '@/core/brief/schema';
import type { Cell } from '@/wire';
import { call } from '../shared/api';
import { plural } from '../shared/format';
import { Popover } from '../shared/Popover';
import { useProject } from '../shared/project';
import { useAction } from '../shared/useAction';

/** So many are offered at a time; a few letters find the others. */
const MOST_OFFERED = 50;

/** Sends sounds to a destination, one after the other, out of a list that can be searched. */
export function AddSound({ brief, cells }: { brief: Brief; cells: readonly Cell[] }) {
  const { sounds } = useProject();
  const assigned = new Set(cells.map(({ soundId }) => soundId));
  const free = sounds.filter(({ id, facts }) => facts !== null && !assigned.has(id));
  return (
    <Popover
      label={`Add a sound to ${brief.title}`}
      disabled={free.length === 0}
      title={free.length === 0 ? 'All sounds go here already' : 'Send a sound here'}
      face={
        <>
          <Plus size={15} aria-hidden /> {free.length === 0 ? 'All sounds are here' : 'Add a sound'}
        </>
      }
    >
      {() => <Choice brief={brief} free={free} />}
    </Popover>
  );
}

function Choice({ brief, free }: { brief: Brief; free: readonly { id: number; name: string }[] }) {
  const { run, busy } = useAction();
  const [search, setSearch] = useState('');
  const words = search.trim().toLowerCase();
  const found = free.filter(({ name }) => name.toLowerCase().includes(words));
  const send = (id: number) =>
    void run(() => call(`sounds/${id}/assignments/${brief.id}`, 'PUT', {}));
  return (
    <form
      className="w-72"
      onSubmit={(event) => {
        event.preventDefault();
        if (words !== '' && found[0]) send(found[0].id);
      }}
    >
      <input
        className="input input-sm w-full"
        autoFocus
        aria-label="Find a sound"
        placeholder="Find a sound"
        value={search}
        onChange={(event) => setSearch(event.target.value)}
      />
      <ul className="mt-2">
        {found.slice(0, MOST_OFFERED).map(({ id, name }) => (
          <li key={id}>
            <button
              type="button"
              className="hover:bg-base-200 block w-full truncate rounded px-2 py-1 text-left"
              title={name}
              disabled={busy}
              onClick={() => send(id)}
            >
              {name}
            </button>
          </li>
        ))}
      </ul>
      {found.length > MOST_OFFERED && (
        <p className="text-soft mt-1 px-2 text-xs">
          And {plural(found.length - MOST_OFFERED, 'other')}: type a part of the name.
        </p>
      )}
      {found.length === 0 && <p className="text-soft mt-1 px-2">No sound is called that.</p>}
    </form>
  );
}
