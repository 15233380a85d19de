'use client';

import { useStore } from 'zustand';
import { MOST_HINT_LETTERS, MOST_HINT_SECONDS, type Hint } from '@/core/host/filter/choices';
import { AmountField } from '../../shared/AmountField';
import type { SceneProps } from '../sceneProps';
import { useRun } from '../useRun';
import { KeepSettings } from './KeepSettings';
import { Phone } from './Phone';
import { FilterRun } from './run';
import { Sentences } from './Sentences';
import { Takes } from './Takes';
import { Timeline } from './Timeline';
import { Triggers } from './Triggers';

/** The filter stage: the picture with everything that can happen to it, and what that does to each sound. */
export function FilterScene({ rehearsal, loaded, part }: SceneProps) {
  const run = useRun(loaded, (first) => new FilterRun(rehearsal, first));
  if (!run) return null;
  return (
    <div className="grid items-start gap-5 md:grid-cols-[17rem_minmax(0,1fr)]">
      <div>
        <Phone rehearsal={rehearsal} run={run} />
        <Triggers run={run} />
      </div>
      <div className="min-w-0 space-y-4">
        <section aria-label="What each sound does" className="border-base-300 bg-base-100 border">
          <header className="border-base-300 flex flex-wrap items-center gap-3 border-b px-4 py-1.5">
            <h2 className="mr-auto font-serif text-lg">What each sound does</h2>
            <KeepSettings run={run} loaded={loaded} part={part} />
          </header>
          <div className="max-h-72 overflow-y-auto" tabIndex={0} role="group" aria-label="Sounds">
            <Sentences rehearsal={rehearsal} run={run} sounds={loaded.sounds} />
          </div>
          <HintFields run={run} />
        </section>
        <Timeline run={run} sounds={loaded.sounds} />
        <Takes rehearsal={rehearsal} run={run} />
      </div>
    </div>
  );
}

/** The line on the screen that says that there is something to hear. */
function HintFields({ run }: { run: FilterRun }) {
  const { hint } = useStore(run.store, (state) => state.choices);
  const seconds = (label: string, name: 'from' | 'seconds') => (
    <AmountField
      label={label}
      value={hint[name]}
      min={0}
      max={MOST_HINT_SECONDS}
      className="input-xs w-13"
      onChange={(value) => run.chooseHint({ [name]: value } satisfies Partial<Hint>)}
    />
  );
  return (
    <div className="border-base-300 flex flex-wrap items-center gap-x-2 gap-y-1 border-t px-4 py-2">
      <label className="flex min-w-48 flex-1 items-center gap-2">
        Hint
        <input
          className="input input-xs min-w-32 flex-1"
          aria-label="Hint on the screen"
          maxLength={MOST_HINT_LETTERS}
          value={hint.text}
          onChange={({ target }) => run.chooseHint({ text: target.value })}
        />
      </label>
      <span className="text-soft flex items-center gap-1 text-xs">
        comes after {seconds('The hint comes after, in seconds', 'from')} s, stays{' '}
        {seconds('The hint stays for, in seconds', 'seconds')} s
      </span>
    </div>
  );
}
