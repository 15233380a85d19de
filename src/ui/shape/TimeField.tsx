'use client';

import { useId } from 'react';
import { BijouError } from '@/core/errors';
import { formatBars, type Tempo } from '@/core/tempo';
import { parseSpan, parseTime } from '@/core/time';
import { count, formatTime, plural } from '../shared/format';
import { TypedField } from '../shared/TypedField';
import { useDraft } from '../shared/useDraft';

/** A time that can be typed in every way people write times; shows at once how it was understood. */
export function TimeField({
  label,
  frame,
  rateHz,
  problem,
  onChange,
  span,
  onEnter,
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
  /** Lets two times be typed: "10-25.5". */
  span?: {
    problem: (start: number, end: number) => string | null;
    onChange: (start: number, end: number) => void;
  };
  /** What was typed counts, and somebody goes on. */
  onEnter?: () => void;
  /** Lets bars and beats be typed, where the field is a place. */
  tempo?: Tempo | null;
  /** Counts frames instead of naming one. */
  isLength?: boolean;
  className?: string;
}) {
  const id = useId();
  const shown = formatTime(frame / rateHz);
  const [typed, setTyped] = useDraft<string>(frame);
  const understood =
    typed === null
      ? { frame, end: null, error: null }
      : understand(typed, rateHz, tempo, problem, span?.problem);
  const commit = () => {
    if (understood.end !== null) span?.onChange(understood.frame, understood.end);
    else onChange(understood.frame);
    setTyped(null);
  };
  const understoodText = () => {
    const { frame: start, end } = understood;
    const time = (at: number) => formatTime(at / rateHz);
    if (end !== null) return `${time(start)} to ${time(end)} · ${plural(end - start, 'frame')}`;
    return [
      typed === null ? '' : time(start),
      isLength ? plural(start, 'frame') : `frame ${count(start)}`,
      tempo && !isLength ? formatBars(start, tempo, rateHz) : '',
    ]
      .filter(Boolean)
      .join(' · ');
  };
  return (
    <div className={className}>
      <label htmlFor={id} className="text-soft text-xs font-semibold">
        {label}
      </label>
      <TypedField
        id={id}
        className="w-full text-base"
        typed={typed}
        shown={shown}
        isGood={understood.error === null}
        aria-describedby={`${id}-understood`}
        onType={setTyped}
        onCommit={commit}
        onEnter={onEnter}
      />
      <p
        id={`${id}-understood`}
        className={`mt-0.5 text-xs ${understood.error === null ? 'text-soft' : 'text-error'}`}
      >
        {understood.error ?? understoodText()}
      </p>
    </div>
  );
}

interface Understood {
  frame: number;
  /** Where two times were typed. */
  end: number | null;
  error: string | null;
}

function understand(
  typed: string,
  rateHz: number,
  tempo: Tempo | null,
  problem: (frame: number) => string | null,
  spanProblem: ((start: number, end: number) => string | null) | undefined,
): Understood {
  try {
    const span = spanProblem && parseSpan(typed, rateHz, tempo);
    if (span) {
      const [start, end] = [span.start.frame, span.end.frame];
      return { frame: start, end, error: spanProblem(start, end) };
    }
    const { frame } = parseTime(typed, rateHz, tempo);
    return { frame, end: null, error: problem(frame) };
  } catch (error) {
    const text = error instanceof BijouError ? `${error.message} ${error.hint}` : String(error);
    return { frame: 0, end: null, error: text };
  }
}
