'use client';

import { Check, Send } from 'lucide-react';
import type { Brief } from '@/core/brief/schema';
import { plural } from './format';
import { Popover } from './Popover';
import { useProject } from './project';
import { useSending } from './useSending';

/** Sends sounds to destinations, one press each, or no more. */
export function SendTo({
  soundIds,
  face = 'Send…',
  className = 'btn btn-paper btn-xs',
}: {
  soundIds: readonly number[];
  face?: string;
  className?: string;
}) {
  return (
    <Popover
      label="Send to destinations"
      title="Choose where to send this (E)"
      face={face}
      className={className}
      disabled={soundIds.length === 0}
    >
      {() => <Destinations soundIds={soundIds} />}
    </Popover>
  );
}

function Destinations({ soundIds }: { soundIds: readonly number[] }) {
  const { briefs, cells } = useProject();
  const ids = new Set(soundIds);
  const there = (brief: Brief) =>
    new Set(
      cells
        .filter(({ briefId, soundId }) => briefId === brief.id && ids.has(soundId))
        .map(({ soundId }) => soundId),
    );
  return (
    <div className="w-80">
      <p className="text-soft mb-1 text-xs">
        {soundIds.length === 1 ? 'This sound goes to' : `${plural(soundIds.length, 'sound')} go to`}
      </p>
      <ul>
        {briefs.map((brief) => (
          <li key={brief.id}>
            <Destination brief={brief} soundIds={soundIds} there={there(brief)} />
          </li>
        ))}
      </ul>
    </div>
  );
}

function Destination({
  brief,
  soundIds,
  there,
}: {
  brief: Brief;
  soundIds: readonly number[];
  /** Those that go there already. */
  there: ReadonlySet<number>;
}) {
  const { send, release } = useSending();
  const missing = soundIds.filter((id) => !there.has(id));
  const isAll = missing.length === 0;
  const state = isAll ? 'sent' : there.size > 0 ? `${there.size} of ${soundIds.length}` : '';
  return (
    <button
      type="button"
      aria-pressed={isAll}
      className="hover:bg-base-200 focus-visible:bg-base-200 flex w-full items-center gap-2 rounded px-1.5 py-1 text-left"
      title={isAll ? 'Press to send there no more' : brief.purpose}
      onClick={() => void (isAll ? release(soundIds, brief) : send(missing, brief))}
    >
      <span className={isAll ? 'text-success' : 'text-soft'}>
        {isAll ? <Check size={15} aria-hidden /> : <Send size={15} aria-hidden />}
      </span>
      <span className="min-w-0 flex-1 truncate font-semibold">{brief.title}</span>
      <span className="text-soft text-xs">{state}</span>
    </button>
  );
}
