'use client';

import { useState } from 'react';
import { describeRecipe } from '@/core/recipe/recipe';
import { shapeOf } from '@/core/recipe/types';
import type { ListedWorry, Sound } from '@/wire';
import { plural } from '../../shared/format';
import { useEdits, type WorryAnswer } from '../../shared/useEdits';

/** A worry and a sound that has it. */
export interface Worried {
  sound: Sound;
  worry: ListedWorry;
}

/** Several worries below each other, each of one sound or of many. */
export function WorryPanels({
  kinds,
  onDone,
}: {
  kinds: readonly (readonly Worried[])[];
  onDone: () => void;
}) {
  return (
    <ul className="divide-base-300 divide-y">
      {kinds.map((worried) => (
        <li key={worried[0]?.worry.code} className="py-2 first:pt-0 last:pb-0">
          <WorryPanel worried={worried} onDone={onDone} />
        </li>
      ))}
    </ul>
  );
}

/** What a worry means and what can be done about it, for one sound or for many. */
export function WorryPanel({
  worried,
  onDone,
}: {
  worried: readonly Worried[];
  onDone: () => void;
}) {
  const { answerWorry, busy } = useEdits();
  const [note, setNote] = useState('');
  const [first] = worried;
  if (!first) return null;
  const { worry } = first;
  const open = worried.filter((one) => one.worry.state === 'open');
  const aside = worried.filter((one) => one.worry.state === 'set-aside');
  const isOne = worried.length === 1;
  const answer = (kind: WorryAnswer, of: readonly Worried[]) => {
    const ids = of.map(({ sound }) => sound.id);
    void answerWorry(worry.code, ids, kind, note).then(onDone);
  };
  return (
    <div className="w-72 space-y-2.5">
      <p className="font-semibold">
        {worry.name}
        {!isOne && (
          <span className="text-soft font-normal"> in {plural(worried.length, 'sound')}</span>
        )}
      </p>
      {isOne && <p>{worry.sentence}</p>}
      {isOne && worry.state === 'cured' && (
        <p className="text-soft">Its recipe takes care of this.</p>
      )}
      {aside.length > 0 && (
        <div>
          {isOne && worry.note && <p className="text-soft">Set aside: {worry.note}</p>}
          <button
            className="btn btn-paper btn-xs mt-1"
            disabled={busy}
            onClick={() => answer('take-up', aside)}
          >
            Worry about it again{isOne ? '' : ` (${aside.length})`}
          </button>
        </div>
      )}
      {open.length > 0 && (
        <>
          {worry.cure.length > 0 ? (
            <div>
              {isOne && <p className="text-soft mb-1">Cure: {cureText(first)}.</p>}
              <button
                className="btn btn-primary btn-sm"
                disabled={busy}
                onClick={() => answer('cure', open)}
              >
                {isOne ? 'Cure it' : `Cure ${plural(open.length, 'sound')}`}
              </button>
              <span className="text-soft ml-2 text-xs">by a step of the recipe</span>
            </div>
          ) : (
            <p className="text-soft">No step can cure this.</p>
          )}
          <form
            className="border-base-300 border-t pt-2"
            onSubmit={(event) => {
              event.preventDefault();
              answer('set-aside', open);
            }}
          >
            <label className="block text-xs">
              Or set it aside, with a note
              <input
                className="input input-sm mt-1 w-full"
                value={note}
                maxLength={500}
                placeholder="Why it may stay so"
                onChange={(event) => setNote(event.target.value)}
              />
            </label>
            <button className="btn btn-paper btn-xs mt-1.5" disabled={busy}>
              Set aside{isOne ? '' : ` (${open.length})`}
            </button>
          </form>
        </>
      )}
    </div>
  );
}

/** What the cure does, as the recipe will say it. */
function cureText({ sound, worry }: Worried): string {
  if (!sound.facts) return '';
  const recipe = { version: 1 as const, steps: [...worry.cure] };
  return describeRecipe(recipe, shapeOf(sound.facts)).join(', ');
}
