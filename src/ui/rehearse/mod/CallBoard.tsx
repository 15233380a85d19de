'use client';

import { Play, RotateCcw } from 'lucide-react';
import { useState } from 'react';
import { useStore } from 'zustand';
import { playedPitch } from '@/core/host/mod/calls';
import type { Call, PathVariant } from '@/core/pack/calls/calls';
import { AmountField } from '../../shared/AmountField';
import { plural } from '../../shared/format';
import { useKeys } from '../../shared/keys';
import { MiddleCut } from '../../shared/MiddleCut';
import { pickKey, type ModRun } from './run';

/** Calls that are listed at once; others are found by their ids. */
const MOST_LISTED = 200;
const level = { from: -24, to: 12 } as const;

/** Every call of the mod: played by its id, with level and pitch, and how often each variant was picked. */
export function CallBoard({ run, calls }: { run: ModRun; calls: readonly Call<PathVariant>[] }) {
  const { picks, last } = useStore(run.store);
  const [typed, setTyped] = useState('');
  const [levelDb, setLevel] = useState(0);
  const [pitch, setPitch] = useState(1);
  const wanted = typed.trim().toLowerCase();
  const found = calls.filter(({ id }) => id.includes(wanted));
  const exact =
    calls.find(({ id }) => id === wanted) ?? (found.length === 1 ? found[0] : undefined);
  const play = (call: Call<PathVariant> | undefined) => {
    if (call) run.play(call, { levelDb, pitch });
  };
  useKeys({
    '/': () => document.querySelector<HTMLElement>('[aria-label="Id of a call"]')?.focus(),
  });
  return (
    <section aria-label="Calls" className="border-base-300 bg-base-100 border">
      <header className="border-base-300 flex flex-wrap items-center gap-x-3 gap-y-1.5 border-b px-4 py-1.5">
        <h2 className="font-serif text-lg">Calls</h2>
        <form
          className="flex min-w-44 flex-1 gap-1.5"
          onSubmit={(event) => {
            event.preventDefault();
            play(exact);
          }}
        >
          <input
            className="input input-xs min-w-28 flex-1"
            aria-label="Id of a call"
            placeholder={`one of ${plural(calls.length, 'call')}, by its id (/)`}
            value={typed}
            spellCheck={false}
            onChange={({ target }) => setTyped(target.value)}
          />
          <button className="btn btn-primary btn-xs" disabled={!exact} title="Play it (Enter)">
            <Play size={12} aria-hidden /> Play
          </button>
        </form>
        <label className="text-soft flex items-center gap-1 text-xs">
          level
          <AmountField
            label="Level of what is played, in dB"
            value={levelDb}
            min={level.from}
            max={level.to}
            className="input-xs w-12"
            onChange={setLevel}
          />
          dB
        </label>
        <label className="text-soft flex items-center gap-1 text-xs">
          pitch ×
          <AmountField
            label="Factor of pitch of what is played"
            value={pitch}
            min={playedPitch.from}
            max={playedPitch.to}
            className="input-xs w-12"
            onChange={setPitch}
          />
        </label>
      </header>
      {calls.length === 0 && (
        <p className="text-soft px-4 py-6 text-center">The island knows no calls of this pack.</p>
      )}
      <ul className="max-h-80 overflow-y-auto" tabIndex={0} aria-label="Every call">
        {found.slice(0, MOST_LISTED).map((call) => (
          <li
            key={call.id}
            className="border-base-300 flex items-start gap-2 border-b px-4 py-1.5 last:border-0"
          >
            <button
              className="btn btn-ghost btn-xs btn-square"
              aria-label={`Play ${call.id}`}
              onClick={() => play(call)}
            >
              <Play size={13} />
            </button>
            <span className="min-w-0 flex-1">
              <span className="font-semibold">{call.id}</span>
              <Variants call={call} picks={picks} />
            </span>
          </li>
        ))}
      </ul>
      {found.length > MOST_LISTED && (
        <p className="text-soft px-4 py-1.5 text-xs">
          and {found.length - MOST_LISTED} more: type a part of their ids
        </p>
      )}
      <footer className="border-base-300 flex items-center gap-2 border-t px-4 py-1 text-xs">
        <p role="status" className="text-soft min-w-0 flex-1">
          {last ?? 'Nothing has been played yet.'}
        </p>
        <button
          className="btn btn-ghost btn-xs"
          disabled={Object.keys(picks).length === 0}
          onClick={() => run.forgetPicks()}
        >
          <RotateCcw size={12} /> Count anew
        </button>
      </footer>
    </section>
  );
}

function Variants({
  call: { id, variants },
  picks,
}: {
  call: Call<PathVariant>;
  picks: Readonly<Record<string, number>>;
}) {
  const odds = variants.reduce((sum, one) => sum + Math.max(0, one.odds), 0);
  const all = variants.reduce((sum, { path }) => sum + (picks[pickKey(id, path)] ?? 0), 0);
  return (
    <ul className="text-soft text-xs">
      {variants.slice(0, 8).map(({ path, odds: own }, i) => {
        const picked = picks[pickKey(id, path)] ?? 0;
        return (
          <li key={i} className="flex gap-3">
            <span className="min-w-0 flex-1">
              <MiddleCut text={path} />
            </span>
            {variants.length > 1 && (
              <span className="w-24 text-right" title="By its odds">
                {Math.round((100 * Math.max(0, own)) / odds)} % wanted
              </span>
            )}
            <span className="w-20 text-right">
              {picked} of {all}
            </span>
          </li>
        );
      })}
      {variants.length > 8 && <li>and {variants.length - 8} more</li>}
    </ul>
  );
}
