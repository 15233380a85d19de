'use client';

import type { Ref } from 'react';
import { count } from '../../shared/format';
import type { MatrixView } from './rows';
import { cellStates, stateSigns } from './states';
import { toggleState, useMatrix } from './store';

/** What is shown of the matrix: words that names hold, and states with how many cells are in each. */
export function Filters({ view, field }: { view: MatrixView; field: Ref<HTMLInputElement> }) {
  const search = useMatrix((state) => state.search);
  const states = useMatrix((state) => state.states);
  const isWide = useMatrix((state) => state.isWide);
  const { counts, otherBriefs } = view;
  return (
    <div className="mb-2 flex flex-wrap items-center gap-x-3 gap-y-1.5">
      <input
        ref={field}
        type="search"
        className="input input-sm w-48"
        placeholder="Search sounds (/)"
        aria-label="Search sounds"
        value={search}
        onChange={(event) => useMatrix.setState({ search: event.target.value })}
      />
      <div
        role="group"
        aria-label="Only sounds with a cell that is"
        className="flex flex-wrap gap-1"
      >
        {cellStates
          .filter((state) => counts[state] || states.has(state))
          .map((state) => {
            const { icon: Icon, phrase, className } = stateSigns[state];
            return (
              <button
                key={state}
                type="button"
                aria-pressed={states.has(state)}
                title={`Only sounds of which some ${phrase}`}
                className="border-base-300 hover:bg-base-200 aria-pressed:bg-base-300 flex items-center gap-1 rounded border px-1.5 py-0.5 text-xs"
                onClick={() => toggleState(state)}
              >
                <Icon size={13} aria-hidden className={className} />
                <span className="tabular-nums">{count(counts[state] ?? 0)}</span> {phrase}
              </button>
            );
          })}
      </div>
      {(otherBriefs.length > 0 || isWide) && otherBriefs.length < totalOf(view) && (
        <label className="text-soft ml-auto flex items-center gap-1.5 text-xs">
          <input
            type="checkbox"
            className="checkbox checkbox-xs checkbox-primary"
            checked={isWide}
            onChange={(event) => useMatrix.setState({ isWide: event.target.checked })}
          />
          {otherBriefs.length} unused destinations too
        </label>
      )}
    </div>
  );
}

function totalOf({ columns, otherBriefs }: MatrixView): number {
  return new Set([...columns, ...otherBriefs].map(({ id }) => id)).size;
}
