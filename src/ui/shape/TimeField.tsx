'use client';

import { useEffect, useId, useState } from 'react';
import { BijouError } from '@/core/errors';
import { formatBars, type Tempo } from '@/core/tempo';
import { parseTime } from '@/core/time';
import { count, formatTime } from '../shared/format';

/** A time that can be typed in every way people write times; shows at once how it was understood. */
export function TimeField({
  label,
  frame,
  rateHz,
  problem,
  onChange,
  tempo = null,
  isLength = false,
  className = 'w-28',
}: {
  label: string;
  frame: number;
  rateHz: number;
  /** Why this frame cannot be; null when it can. */
  problem: (frame: number) => string | null;
  onChange: (frame: number) => void;
  /** Lets bars and beats be typed, where the field is a place. */
  tempo?: Tempo | null;
  /** Counts frames instead of naming one. */
  isLength?: boolean;
  className?: string;
}) {
  const id = useId();
  const shown = formatTime(frame / rateHz);
  const [typed, setTyped] = useState<string | null>(null);
  useEffect(() => setTyped(null), [frame]);
  const understood =
    typed === null ? { frame, error: null } : understand(typed, rateHz, tempo, problem);
  const commit = () => {
    if (typed !== null && understood.error === null) {
      onChange(understood.frame);
      setTyped(null);
    }
  };
  return (
    <div className={className}>
      <label htmlFor={id} className="text-soft text-xs font-semibold">
        {label}
      </label>
      <input
        id={id}
        className="input input-sm w-full text-base aria-invalid:border-error"
        value={typed ?? shown}
        aria-invalid={understood.error !== null}
        aria-describedby={`${id}-understood`}
        spellCheck={false}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === 'Enter') commit();
          if (event.key === 'Escape') setTyped(null);
        }}
      />
      <p
        id={`${id}-understood`}
        className={`mt-0.5 text-xs ${understood.error === null ? 'text-soft' : 'text-error'}`}
      >
        {understood.error ??
          [
            typed === null ? '' : formatTime(understood.frame / rateHz),
            isLength ? `${count(understood.frame)} frames` : `frame ${count(understood.frame)}`,
            tempo && !isLength ? formatBars(understood.frame, tempo, rateHz) : '',
          ]
            .filter(Boolean)
            .join(' · ')}
      </p>
    </div>
  );
}

function understand(
  typed: string,
  rateHz: number,
  tempo: Tempo | null,
  problem: (frame: number) => string | null,
) {
  try {
    const { frame } = parseTime(typed, rateHz, tempo);
    return { frame, error: problem(frame) };
  } catch (error) {
    const text = error instanceof BijouError ? `${error.message} ${error.hint}` : String(error);
    return { frame: 0, error: text };
  }
}
