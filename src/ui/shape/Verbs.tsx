'use client';

import { nudges, useDesk, useHabits, type Nudge } from './desk';
import { OnlyWhatSounds } from './OnlyWhatSounds';
import { useMark } from './useMark';
import { useVerbs } from './useVerbs';

/** What can be done with the marked part. */
export function Verbs() {
  const hasMark = useDesk((desk) => desk.mark !== null);
  const nudge = useHabits((habits) => habits.nudge);
  const verbs = useVerbs();
  const { clear } = useMark();
  return (
    <>
      <div role="toolbar" aria-label="With the marked part" className="mt-2 flex flex-wrap gap-1.5">
        {verbs.map(({ name, key, tip, run }) => (
          <button
            key={name}
            className="btn btn-paper btn-sm"
            disabled={!hasMark}
            title={hasMark ? `${tip} (${key})` : `${tip} (${key}). Mark a part first.`}
            onClick={run}
          >
            {name}
          </button>
        ))}
        <OnlyWhatSounds />
      </div>
      <div className="text-soft mt-1.5 flex flex-wrap items-center gap-x-3 text-xs">
        <label>
          A nudge goes{' '}
          <select
            className="select select-xs w-auto"
            title="How far one nudge goes (U)"
            value={nudge}
            onChange={(event) => useHabits.setState({ nudge: event.target.value as Nudge })}
          >
            {Object.entries(nudges).map(([key, text]) => (
              <option key={key} value={key}>
                {text}
              </option>
            ))}
          </select>
        </label>
        {hasMark ? (
          <button className="btn btn-ghost btn-xs" title="Mark nothing (Esc)" onClick={clear}>
            Mark nothing
          </button>
        ) : (
          <span>Nothing is marked: drag over the waveform, or type. The wheel goes closer.</span>
        )}
      </div>
    </>
  );
}
