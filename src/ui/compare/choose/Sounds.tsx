'use client';

import { Check } from 'lucide-react';
import { useState } from 'react';
import { useChoice } from '../../collect/choice';
import { formatTime, plural } from '../../shared/format';
import { MiddleCut } from '../../shared/MiddleCut';
import { useProject } from '../../shared/project';
import { useAction } from '../../shared/useAction';
import { fewOf } from '../api';
import { chooseSounds, toggleSound, useChosen } from './choice';
import { References } from './References';

/** More lines than these are found by their names. */
const MOST_LINES = 200;

/** On which sounds the candidates are tried. */
export function Sounds() {
  const { project, sounds } = useProject();
  const { soundIds, reasons } = useChosen();
  const { run, busy } = useAction();
  const atCollect = useChoice(({ ids }) => ids);
  const [search, setSearch] = useState('');
  const ready = sounds.filter(({ facts, state }) => facts !== null && state === 'ready');
  const chosen = new Set(soundIds);
  const words = search.trim().toLowerCase();
  const found = ready.filter(({ name, group }) => `${group} ${name}`.toLowerCase().includes(words));
  // What is chosen stands in front, so that it is seen.
  const listed = [
    ...found.filter(({ id }) => chosen.has(id)),
    ...found.filter(({ id }) => !chosen.has(id)),
  ];
  const groups = [...new Set(ready.map(({ group }) => group))].filter(Boolean).sort();
  const pick = () =>
    run(async () => {
      const picked = await fewOf(project.id);
      chooseSounds(
        picked.map(({ soundId }) => soundId),
        Object.fromEntries(picked.map(({ soundId, why }) => [soundId, why])),
      );
    });
  return (
    <section aria-label="Sounds" className="flex min-h-0 min-w-0 flex-col">
      <h2 className="mb-1 font-serif text-xl">On these sounds</h2>
      <div className="mb-2 flex flex-wrap gap-1.5">
        <button
          className="btn btn-paper btn-xs"
          disabled={busy}
          title="The longest, the noisiest, the purest tone, the most like speech, the most sudden"
          onClick={() => void pick()}
        >
          {busy ? 'Listening…' : 'A few that differ'}
        </button>
        {atCollect.size > 0 && (
          <button className="btn btn-paper btn-xs" onClick={() => chooseSounds([...atCollect])}>
            {plural(atCollect.size, 'sound')} chosen at Collect
          </button>
        )}
        {groups.length > 0 && (
          <select
            aria-label="Choose a group"
            className="select select-xs w-32"
            value=""
            onChange={(event) =>
              chooseSounds(
                ready.flatMap(({ id, group }) => (group === event.target.value ? id : [])),
              )
            }
          >
            <option value="">A group…</option>
            {groups.map((group) => (
              <option key={group}>{group}</option>
            ))}
          </select>
        )}
        <References />
        <button
          className="btn btn-ghost btn-xs"
          disabled={soundIds.length === 0}
          onClick={() => chooseSounds([])}
        >
          None
        </button>
      </div>
      <input
        className="input input-sm w-full"
        aria-label="Find a sound"
        placeholder="Find a sound"
        value={search}
        onChange={(event) => setSearch(event.target.value)}
      />
      <ul
        aria-label="Sounds to choose from"
        className="border-base-300 bg-base-100 mt-2 min-h-0 flex-1 overflow-y-auto border max-lg:max-h-72"
      >
        {listed.slice(0, MOST_LINES).map(({ id, name, group, facts }) => (
          <li key={id} className="border-base-300 border-b last:border-0">
            <button
              role="checkbox"
              aria-checked={chosen.has(id)}
              className="hover:bg-base-200 flex w-full items-center gap-2 px-2 py-1 text-left"
              onClick={() => toggleSound(id)}
            >
              <Tick isOn={chosen.has(id)} />
              <span className="min-w-0 flex-1">
                <MiddleCut text={name} />
                {reasons[id] && chosen.has(id) && (
                  <span className="text-soft block text-xs">{reasons[id]}</span>
                )}
              </span>
              <span className="text-soft shrink-0 text-xs">
                {group && `${group} · `}
                {facts && formatTime(facts.seconds)}
              </span>
            </button>
          </li>
        ))}
        {listed.length === 0 && <li className="text-soft px-3 py-2">No sound is called that.</li>}
        {listed.length > MOST_LINES && (
          <li className="text-soft px-3 py-2 text-xs">
            And {plural(listed.length - MOST_LINES, 'other')}: type a part of the name.
          </li>
        )}
      </ul>
    </section>
  );
}

export function Tick({ isOn }: { isOn: boolean }) {
  return (
    <span
      aria-hidden
      className={`grid size-4 shrink-0 place-items-center rounded-sm border ${
        isOn ? 'bg-primary border-primary text-primary-content' : 'border-base-content/40'
      }`}
    >
      {isOn && <Check size={12} strokeWidth={3} />}
    </span>
  );
}
