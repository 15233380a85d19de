'use client';

import { useDroppable } from '@dnd-kit/core';
import { Play, Split, Trash2, X } from 'lucide-react';
import { levels, MOST_ODDS, pitches, ways, type Call, type Way } from '@/core/pack/calls/calls';
import type { PackTrouble } from '@/core/pack/troubles';
import { AmountField } from '../../shared/AmountField';
import { MiddleCut } from '../../shared/MiddleCut';
import { useProject } from '../../shared/project';
import { TypedField } from '../../shared/TypedField';
import { useDraft } from '../../shared/useDraft';
import { pickKey, useHearCall, usePicks } from './hear';

/** One call: its id, its variants with their odds, and how they are played. */
export function CallRow({
  briefId,
  call,
  index,
  problems,
  onChange,
  onSplit,
}: {
  briefId: string;
  call: Call;
  index: number;
  problems: readonly PackTrouble[];
  onChange: (call: Call | null, say?: string) => void;
  onSplit: () => void;
}) {
  const hear = useHearCall(briefId);
  const last = usePicks((state) => state.last[call.id]);
  const [typed, setTyped] = useDraft<string>(call.id);
  const { setNodeRef, isOver } = useDroppable({ id: `call-${index}` });
  const { levelDb, pitch, read } = call;
  const amount = (
    label: string,
    value: number,
    span: { from: number; to: number },
    put: (value: number) => void,
  ) => (
    <AmountField
      label={`${label} of ${call.id}`}
      value={value}
      min={span.from}
      max={span.to}
      className="input-xs w-14"
      onChange={put}
    />
  );
  return (
    <div
      ref={setNodeRef}
      className={`border-base-300 border-b px-3 py-2 ${isOver ? 'bg-primary/10 outline-primary outline-2 -outline-offset-2' : ''}`}
    >
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <button
          className="btn btn-ghost btn-xs btn-square"
          aria-label={`Hear ${call.id}`}
          title="Hear it as the game plays it: a variant by its odds, with level and pitch"
          onClick={() => void hear(call)}
        >
          <Play size={14} />
        </button>
        <TypedField
          aria-label={`Id of call ${index + 1}`}
          className="input-xs min-w-36 flex-1 font-semibold"
          typed={typed}
          shown={call.id}
          isGood={typed === null || typed.trim() !== ''}
          onType={setTyped}
          onCommit={() => {
            const id = (typed ?? '').trim();
            setTyped(null);
            if (id !== call.id) onChange({ ...call, id });
          }}
        />
        <span className="text-soft flex items-center gap-1 text-xs">
          level {amount('Level', levelDb, levels, (value) => onChange({ ...call, levelDb: value }))}{' '}
          dB
        </span>
        <span className="text-soft flex items-center gap-1 text-xs">
          pitch ×
          {amount('Lowest pitch', pitch[0], pitches, (low) =>
            onChange({ ...call, pitch: [low, Math.max(low, pitch[1])] }),
          )}
          to
          {amount('Highest pitch', pitch[1], pitches, (high) =>
            onChange({ ...call, pitch: [Math.min(high, pitch[0]), high] }),
          )}
        </span>
        <select
          className="select select-xs w-28"
          aria-label={`How ${call.id} is read`}
          value={read}
          onChange={(event) => onChange({ ...call, read: event.target.value as Way })}
        >
          {Object.entries(ways).map(([way, name]) => (
            <option key={way} value={way}>
              {name}
            </option>
          ))}
        </select>
        <span className="flex">
          <button
            className="btn btn-ghost btn-xs btn-square"
            aria-label={`Remove ${call.id}`}
            title="Remove this call"
            onClick={() => onChange(null, 'Call removed.')}
          >
            <Trash2 size={13} />
          </button>
        </span>
      </div>
      <Variants call={call} last={last} onChange={onChange} onSplit={onSplit} />
      {problems.map(({ message }) => (
        <p key={message} className="text-warning mt-1 pl-9 text-xs">
          {message}
        </p>
      ))}
    </div>
  );
}

function Variants({
  call,
  last,
  onChange,
  onSplit,
}: {
  call: Call;
  /** How it was played last. */
  last: string | undefined;
  onChange: (call: Call) => void;
  onSplit: () => void;
}) {
  const { sounds } = useProject();
  const counts = usePicks((state) => state.counts);
  const { variants } = call;
  if (variants.length === 0) return null;
  return (
    <ul className="mt-1 flex flex-wrap gap-x-2 gap-y-1 pl-9" aria-label={`Variants of ${call.id}`}>
      {variants.map(({ soundId, odds }, i) => {
        const name = sounds.find(({ id }) => id === soundId)?.name ?? 'a sound that is gone';
        const picked = counts[pickKey(call.id, soundId)];
        return (
          <li
            key={`${soundId} ${i}`}
            className="border-base-300 bg-base-200 flex max-w-72 items-center gap-1.5 border py-0.5 pr-0.5 pl-2"
          >
            <MiddleCut text={name} />
            {variants.length > 1 && (
              <AmountField
                label={`Odds of ${name} in ${call.id}`}
                value={odds}
                min={0}
                max={MOST_ODDS}
                className="input-xs w-12"
                onChange={(value) =>
                  onChange({
                    ...call,
                    variants: variants.map((one, at) => (at === i ? { ...one, odds: value } : one)),
                  })
                }
              />
            )}
            {picked !== undefined && <span className="text-soft text-xs">{picked} ×</span>}
            <button
              className="btn btn-ghost btn-xs btn-square"
              aria-label={`Take ${name} out of ${call.id}`}
              onClick={() => onChange({ ...call, variants: variants.filter((_, at) => at !== i) })}
            >
              <X size={12} />
            </button>
          </li>
        );
      })}
      {variants.length > 1 && (
        <li>
          <button
            className="btn btn-ghost btn-xs"
            title="A call for each variant"
            onClick={onSplit}
          >
            <Split size={13} /> A call for each
          </button>
        </li>
      )}
      {last && <li className="text-soft self-center text-xs">heard {last}</li>}
    </ul>
  );
}
