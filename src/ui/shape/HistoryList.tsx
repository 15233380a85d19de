'use client';

import { useState } from 'react';
import type { HistoryEntry, Sound } from '@/wire';
import { call } from '../shared/api';
import { plural } from '../shared/format';
import { useSoundHistory } from '../shared/history';
import { useAction } from '../shared/useAction';

/** Everything that was done to a sound, newest first; a click goes to where that was the last. */
export function HistoryList({ sound }: { sound: Sound }) {
  const { entries } = useSoundHistory(sound);
  const { run, busy } = useAction();
  const [isOpen, setOpen] = useState(false);
  if (entries.length === 0) return null;
  const go = (to: number) => void run(() => call(`sounds/${sound.id}/history`, 'POST', { to }));
  const last = entries.findLast(({ undone }) => !undone)?.id ?? 0;
  const name = ` “${sound.name}”`;
  return (
    <details
      className="border-base-300 mt-3 border-t pt-2"
      open={isOpen}
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary
        className="cursor-pointer font-serif text-lg"
        aria-label={`History, ${plural(entries.length, 'change')}`}
        title="Everything that was done to this sound (H)"
      >
        History <span className="text-soft font-sans text-xs">{entries.length}</span>
      </summary>
      <ol aria-label="History" reversed className="mt-1 max-h-60 overflow-y-auto">
        {entries.toReversed().map((entry) => (
          <Entry
            key={entry.id}
            entry={entry}
            title={entry.title.replace(name, '').replace(/ (on|of|to)$/, '')}
            isHere={entry.id === last}
            isBusy={busy}
            onGo={() => go(entry.id)}
          />
        ))}
        <li>
          <button
            className="hover:bg-base-200 w-full rounded px-1.5 py-0.5 text-left"
            disabled={busy}
            aria-current={last === 0 ? 'step' : undefined}
            onClick={() => go(0)}
          >
            As it came in
          </button>
        </li>
      </ol>
    </details>
  );
}

function Entry({
  entry: { madeAt, undone },
  title,
  isHere,
  isBusy,
  onGo,
}: {
  entry: HistoryEntry;
  title: string;
  isHere: boolean;
  isBusy: boolean;
  onGo: () => void;
}) {
  return (
    <li>
      <button
        className={`hover:bg-base-200 flex w-full gap-2 rounded px-1.5 py-0.5 text-left ${undone ? 'text-soft line-through' : ''} ${isHere ? 'bg-base-200 font-semibold' : ''}`}
        disabled={isBusy}
        aria-current={isHere ? 'step' : undefined}
        title={undone ? 'Do everything again up to here' : 'Go back to here'}
        onClick={onGo}
      >
        <span className="flex-1">{title}</span>
        <time dateTime={madeAt} className="text-soft text-xs font-normal">
          {new Date(madeAt).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}
        </time>
      </button>
    </li>
  );
}
