'use client';

import { Repeat, Volume1 } from 'lucide-react';
import { useState } from 'react';
import { useStore } from 'zustand';
import {
  acts,
  MOST_FADE_SECONDS,
  MOST_LEVEL,
  triggerIds,
  triggers,
  untouched,
  type Act,
  type SoundChoice,
} from '@/core/host/filter/choices';
import { foretold } from '@/core/host/filter/foretold';
import type { LoadedSound } from '@/core/host/kind';
import { AmountField } from '../../shared/AmountField';
import { formatTime, plural } from '../../shared/format';
import { MiddleCut } from '../../shared/MiddleCut';
import type { Rehearsal } from '../rehearsing';
import { useAt } from '../useRehearsal';
import type { FilterRun } from './run';

/** Sounds that are listed at once; others are found by their names. */
const MOST_LISTED = 40;

/** What each trigger does to each sound, in sentences that are chosen. */
export function Sentences({
  rehearsal,
  run,
  sounds,
}: {
  rehearsal: Rehearsal;
  run: FilterRun;
  sounds: readonly LoadedSound[];
}) {
  const { sounds: choices } = useStore(run.store, (state) => state.choices);
  const sounding = useAt(rehearsal, (state) => state.sounding);
  const [typed, setTyped] = useState('');
  if (sounds.length === 0) {
    return (
      <p className="text-soft py-8 text-center">
        The host has taken no sound: see what it checked.
      </p>
    );
  }
  const wanted = typed.trim().toLowerCase();
  const found = sounds.filter(({ file }) => file.toLowerCase().includes(wanted));
  const more = found.length - MOST_LISTED;
  return (
    <ul className="divide-base-300 divide-y">
      {sounds.length > MOST_LISTED && (
        <li className="px-4 py-2">
          <input
            type="search"
            className="input input-xs w-full"
            aria-label="Search the sounds"
            placeholder={`Search ${plural(sounds.length, 'sound')}`}
            value={typed}
            onChange={({ target }) => setTyped(target.value)}
          />
        </li>
      )}
      {found.slice(0, MOST_LISTED).map((sound) => (
        <li key={sound.file} className="px-4 py-2.5">
          <Sound
            sound={sound}
            // A pack that has just been loaded may have more of them.
            choice={choices[sound.file] ?? untouched}
            isSounding={sounding.has(sound.file)}
            onChoose={(change) => run.choose(sound.file, change)}
          />
        </li>
      ))}
      {more > 0 && <li className="text-soft px-4 py-2 text-xs">and {more} more: search them</li>}
    </ul>
  );
}

function Sound({
  sound,
  choice,
  isSounding,
  onChoose,
}: {
  sound: LoadedSound;
  choice: SoundChoice;
  isSounding: boolean;
  onChoose: (change: Partial<SoundChoice>) => void;
}) {
  const { file, seconds } = sound;
  const chosen = triggerIds.filter((id) => choice.acts[id] !== 'nothing');
  const free = triggerIds.filter((id) => choice.acts[id] === 'nothing');
  const act = (id: (typeof triggerIds)[number], to: Act) =>
    onChoose({ acts: { ...choice.acts, [id]: to } });
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <span
          aria-hidden
          className={`gem size-3 shrink-0 ${isSounding ? 'bg-primary' : 'bg-base-300'}`}
        />
        <span className="min-w-32 flex-1 font-semibold">
          <MiddleCut text={file} />
          {isSounding && <span className="sr-only">, sounds now</span>}
        </span>
        <span className="text-soft text-xs">{formatTime(seconds, 1)}</span>
        <button
          className="btn btn-paper btn-xs aria-pressed:border-primary aria-pressed:text-primary"
          aria-pressed={choice.isLoop}
          aria-label={`${file} repeats`}
          onClick={() => onChoose({ isLoop: !choice.isLoop })}
        >
          <Repeat size={12} aria-hidden /> {choice.isLoop ? 'repeats' : 'once'}
        </button>
        <label className="text-soft flex items-center gap-1 text-xs">
          <Volume1 size={13} aria-hidden /> level
          <AmountField
            label={`Level of ${file}`}
            value={choice.level}
            min={0}
            max={MOST_LEVEL}
            className="input-xs w-13"
            onChange={(level) => onChoose({ level })}
          />
        </label>
        <label className="text-soft flex items-center gap-1 text-xs">
          fade
          <AmountField
            label={`Fade of ${file} in seconds`}
            value={choice.fade}
            min={0}
            max={MOST_FADE_SECONDS}
            className="input-xs w-12"
            onChange={(fade) => onChoose({ fade })}
          />
          s
        </label>
      </div>
      <ul className="mt-1.5 space-y-1 pl-6">
        {chosen.map((id) => (
          <li key={id} className="flex flex-wrap items-center gap-1.5">
            <span className="min-w-34">{sentenceStart(id)}</span>
            <Choice
              label={`What ${triggers[id]} does to ${file}`}
              value={choice.acts[id]}
              onChoose={(to) => act(id, to)}
            />
          </li>
        ))}
        {free.length > 0 && (
          <li>
            <select
              className="select select-ghost select-xs text-soft w-auto"
              aria-label={`Something else that does something to ${file}`}
              value=""
              onChange={({ target: { value } }) =>
                act(value as (typeof triggerIds)[number], 'startOrStop')
              }
            >
              <option value="">{chosen.length === 0 ? 'Nothing starts it yet …' : 'and …'}</option>
              {free.map((id) => (
                <option key={id} value={id}>
                  {triggers[id]}
                </option>
              ))}
            </select>
          </li>
        )}
      </ul>
      {choice.acts.tap !== 'nothing' && <Taps sound={sound} choice={choice} />}
    </>
  );
}

/** What is heard from tap to tap, before anybody is surprised. */
function Taps({ sound, choice }: { sound: LoadedSound; choice: SoundChoice }) {
  const steps = foretold(sound, choice).filter(
    ({ event }) => event !== 'opened' || choice.acts.opened !== 'nothing',
  );
  return (
    <ol
      aria-label={`What taps do to ${sound.file}`}
      className="text-soft mt-1.5 flex flex-wrap gap-x-1 gap-y-0.5 pl-6 text-xs"
    >
      {steps.map(({ event, text }, i) => (
        <li key={event} className="flex items-center gap-1">
          {i > 0 && <span aria-hidden>→</span>}
          <span>
            {event}:{' '}
            <span className={event === 'second tap' ? 'text-base-content font-semibold' : ''}>
              it {text}
            </span>
          </span>
        </li>
      ))}
    </ol>
  );
}

function Choice({
  label,
  value,
  onChoose,
}: {
  label: string;
  value: Act;
  onChoose: (value: Act) => void;
}) {
  return (
    <select
      className="select select-xs w-auto max-w-full"
      aria-label={label}
      value={value}
      onChange={({ target }) => onChoose(target.value as Act)}
    >
      {Object.entries(acts).map(([id, text]) => (
        <option key={id} value={id}>
          {text}
        </option>
      ))}
    </select>
  );
}

function sentenceStart(id: keyof typeof triggers): string {
  const text = triggers[id];
  return text.charAt(0).toUpperCase() + text.slice(1);
}
