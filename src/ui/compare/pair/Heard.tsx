'use client';

import { columnNumber, trialColumn } from '@/core/compare/columns';
import { wordsOfGrade } from '@/core/compare/grade';
import type { MeasuredTrial, TrialColumn } from '@/core/compare/measured';
import { DIFFERENCE, hearOther, useHearing } from './hearing';
import type { Side } from './sides';

/** Which of them is heard, and how much it is turned. */
export function Heard({ sides }: { sides: readonly [Side, Side] }) {
  const { heard, gains, isPlaying } = useHearing();
  const all = [
    ...sides.map(({ key, label }) => ({ key, label })),
    { key: DIFFERENCE, label: 'Difference alone' },
  ];
  const current = all.some(({ key }) => key === heard) ? heard : all[0]!.key;
  return (
    <div role="radiogroup" aria-label="Heard" className="join">
      {all.map(({ key, label }) => {
        const gain = gains[key];
        return (
          <button
            key={key}
            role="radio"
            aria-checked={key === current}
            className={`btn btn-sm join-item font-normal ${key === current ? 'btn-neutral' : 'btn-paper'}`}
            title={
              key === DIFFERENCE
                ? 'What the right side has that the left has not (D)'
                : 'Hear this side at the same place, as loud as the other (V)'
            }
            onClick={() => hearOther(key)}
          >
            {label}
            {isPlaying && gain !== undefined && Math.abs(gain) >= 0.05 && (
              <span className="text-xs opacity-75">
                {gain > 0 ? '+' : '−'}
                {Math.abs(gain).toFixed(key === DIFFERENCE ? 0 : 1)} dB
              </span>
            )}
          </button>
        );
      })}
    </div>
  );
}

/** What both sides came to, in short. */
export function Figures({ sides }: { sides: readonly [Side, Side] }) {
  return (
    <p className="text-soft flex flex-wrap gap-x-4 text-xs">
      {sides.flatMap(({ key, label, isSource, trial }) =>
        isSource || !trial.measured
          ? []
          : [
              <span key={key}>
                <strong>{label}</strong>: {figure(size, trial.measured)},{' '}
                {figure(noise, trial.measured)}, to decode {figure(cost, trial.measured)};{' '}
                {wordsOfGrade(trial.measured.figures.fidelity.grade)}
              </span>,
            ],
      )}
    </p>
  );
}

const [size, noise, cost] = [trialColumn('kbps'), trialColumn('nmrDb'), trialColumn('nativeCost')];

const figure = (column: TrialColumn, trial: MeasuredTrial) =>
  `${columnNumber(column, column.value(trial))} ${column.unit}`;
