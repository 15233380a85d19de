'use client';

import { wholeName } from '@/core/compare/candidates/candidate';
import type { Comparison, Trial } from '@/wire';
import { useProject } from '../../shared/project';
import { SOURCE } from './sides';

/** Of which sound both sides are. */
export function SoundPicker({
  run,
  trial,
  onPick,
}: {
  run: Comparison;
  trial: Trial;
  onPick: (trialId: string) => void;
}) {
  const { sounds } = useProject();
  const ids = [...new Set(run.trials.map(({ soundId }) => soundId))];
  const nameOf = (id: number) => sounds.find((sound) => sound.id === id)?.name ?? 'gone';
  if (ids.length < 2) return <strong>{nameOf(trial.soundId)}</strong>;
  return (
    <select
      aria-label="Sound"
      className="select select-sm w-44"
      value={trial.soundId}
      onChange={({ target: { value } }) => {
        const same = run.trials.find(
          (one) =>
            one.soundId === Number(value) &&
            one.measured &&
            wholeName(one.candidate) === wholeName(trial.candidate),
        );
        const any = run.trials.find((one) => one.soundId === Number(value) && one.measured);
        const next = same ?? any;
        if (next) onPick(String(next.id));
      }}
    >
      {ids.map((id) => (
        <option key={id} value={id}>
          {nameOf(id)}
        </option>
      ))}
    </select>
  );
}

/** One side of the pair. */
export function Picker({
  label,
  value,
  trials,
  hasSource = false,
  onPick,
}: {
  label: string;
  value: string;
  trials: readonly Trial[];
  hasSource?: boolean;
  onPick: (key: string) => void;
}) {
  return (
    <select
      aria-label={label}
      className="select select-sm w-56"
      value={value}
      onChange={({ currentTarget }) => {
        // Its letters are keys of the page again.
        currentTarget.blur();
        onPick(currentTarget.value);
      }}
    >
      {hasSource && <option value={SOURCE}>Source</option>}
      {trials.map(({ id, candidate }) => (
        <option key={id} value={id}>
          {wholeName(candidate)}
        </option>
      ))}
    </select>
  );
}
