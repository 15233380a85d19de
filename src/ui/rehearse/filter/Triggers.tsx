'use client';

import { Eye, Hand, Pointer, RotateCcw, Smile } from 'lucide-react';
import { useStore } from 'zustand';
import type { Trigger } from '@/core/host/filter/choices';
import { useKeys } from '../../shared/keys';
import type { FilterRun } from './run';

const buttons = [
  { trigger: 'opened', name: 'Filter opened', key: 'o', Icon: RotateCcw },
  { trigger: 'tap', name: 'Tap', key: 't', Icon: Pointer },
  { trigger: 'tap', name: 'Tap again', key: 't', Icon: Pointer },
  { trigger: 'mouth', name: 'Mouth open', key: 'a', Icon: Smile },
  { trigger: 'blink', name: 'Blink', key: 'b', Icon: Eye },
  { trigger: 'hand', name: 'Hand seen', key: 'h', Icon: Hand },
] as const satisfies readonly { trigger: Trigger; name: string; key: string; Icon: typeof Eye }[];

/** Everything that can happen to the filter, by buttons and keys. */
export function Triggers({ run }: { run: FilterRun }) {
  const taps = useStore(run.store, (state) => state.taps);
  useKeys(Object.fromEntries(buttons.map(({ trigger, key }) => [key, () => run.happen(trigger)])));
  return (
    <div role="group" aria-label="What happens" className="mt-3 grid grid-cols-2 gap-1.5">
      {buttons.map(({ trigger, name, key, Icon }) => (
        <button
          key={name}
          className="btn btn-paper btn-sm justify-start gap-1.5 px-2 whitespace-nowrap"
          // A first tap wakes the sound; from then on there are only further ones.
          disabled={trigger === 'tap' && (name === 'Tap') !== (taps === 0)}
          title={`${name} (${key.toUpperCase()})`}
          onClick={() => run.happen(trigger)}
        >
          <Icon size={14} aria-hidden /> {name}
          <kbd className="text-soft ml-auto text-xs font-normal">{key.toUpperCase()}</kbd>
        </button>
      ))}
    </div>
  );
}
