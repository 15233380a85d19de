import { useId } from 'react';
import { BijouError } from '@/core/errors';
import { parseGap } from './gap';
import { TypedField } from '../../shared/TypedField';
import { useDraft } from '../../shared/useDraft';

/** Silence behind a sound, or how far the next one reaches into it. */
export function GapField({
  label,
  seconds,
  rateHz,
  onChange,
}: {
  label: string;
  /** null where several gaps differ. */
  seconds: number | null;
  rateHz: number;
  onChange: (seconds: number) => void;
}) {
  const id = useId();
  const shown = seconds === null ? '' : String(Number(seconds.toFixed(6))).replace('-', '−');
  const [typed, setTyped] = useDraft<string>(seconds);
  const understood = typed === null ? { seconds, problem: null } : understand(typed, rateHz);
  const commit = () => {
    if (understood.seconds === null) return;
    setTyped(null);
    onChange(understood.seconds);
  };
  const what = gapText(understood.seconds);
  return (
    <span>
      <span className="flex items-center gap-1.5">
        <TypedField
          id={id}
          aria-label={label}
          title="Seconds of silence; with a minus in front, of overlap"
          className="w-20"
          typed={typed}
          shown={shown}
          isGood={understood.problem === null}
          onType={setTyped}
          onCommit={commit}
        />
        <span className="text-soft text-xs">{what}</span>
      </span>
      {understood.problem !== null && (
        <span className="text-error block text-xs">{understood.problem}</span>
      )}
    </span>
  );
}

function gapText(seconds: number | null): string {
  if (seconds === null) return 'different';
  return seconds < 0 ? 's overlap' : seconds > 0 ? 's silence' : 'no gap';
}

function understand(typed: string, rateHz: number) {
  try {
    return { seconds: parseGap(typed, rateHz), problem: null };
  } catch (error) {
    const problem = error instanceof BijouError ? error.message : String(error);
    return { seconds: 0, problem };
  }
}
