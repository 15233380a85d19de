'use client';

import { useState, type ReactNode } from 'react';
import { plural } from './format';

/** So many are offered at a time; a few letters find the others. */
const MOST_OFFERED = 50;

interface Named {
  id: number;
  name: string;
}

/** A list of sounds that letters narrow. Typing alone does nothing else. */
export function SoundSearch<Sound extends Named>({
  sounds,
  onEnter,
  line,
  below,
}: {
  sounds: readonly Sound[];
  /** Enter in the field, with what is found by what was typed. */
  onEnter: (found: readonly Sound[], typed: string) => void;
  line: (sound: Sound) => ReactNode;
  below?: (found: readonly Sound[]) => ReactNode;
}) {
  const [search, setSearch] = useState('');
  const words = search.trim().toLowerCase();
  const found = sounds.filter(({ name }) => name.toLowerCase().includes(words));
  return (
    <div className="w-72">
      <input
        className="input input-sm w-full"
        aria-label="Find a sound"
        placeholder="Find a sound"
        value={search}
        onChange={(event) => setSearch(event.target.value)}
        onKeyDown={(event) => {
          if (event.key !== 'Enter') return;
          event.preventDefault();
          onEnter(found, words);
        }}
      />
      <ul className="mt-2 max-h-64 overflow-y-auto">
        {found.slice(0, MOST_OFFERED).map((sound) => (
          <li key={sound.id}>{line(sound)}</li>
        ))}
      </ul>
      {found.length > MOST_OFFERED && (
        <p className="text-soft mt-1 px-2 text-xs">
          And {plural(found.length - MOST_OFFERED, 'other')}: type a part of the name.
        </p>
      )}
      {found.length === 0 && <p className="text-soft mt-1 px-2">No sound is called that.</p>}
      {below?.(found)}
    </div>
  );
}
