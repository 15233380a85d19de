'use client';

import { useState } from 'react';
import { arrivingSince } from '../collect/arrived';
import { useIntake } from '../collect/intake/DropAnywhere';
import { plural } from '../shared/format';
import { useProject } from '../shared/project';
import { openConvert } from './convert';

/** Opens the sheet for what is chosen. Files that are dropped on it come in and are converted. */
export function ConvertButton({
  ids,
  className = 'btn btn-paper btn-xs',
}: {
  ids: readonly number[];
  className?: string;
}) {
  const { sounds } = useProject();
  const { take } = useIntake();
  const [isOver, setOver] = useState(false);
  const newest = sounds.reduce((most, { id }) => Math.max(most, id), 0);
  return (
    <button
      type="button"
      aria-label={ids.length === 0 ? 'Convert' : `Convert ${plural(ids.length, 'sound')}`}
      className={`${className} ${isOver ? 'outline-primary outline-2 outline-offset-2' : ''}`}
      title={
        ids.length === 0
          ? 'Convert files: choose sounds first, or drop files here (Z)'
          : 'Make files of another format, without a destination (Z)'
      }
      onClick={() => openConvert(ids, ids.length === 0 ? newest : arrivingSince(ids))}
      onDragOver={() => setOver(true)}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        setOver(false);
        if (!event.dataTransfer.types.includes('Files')) return;
        openConvert([], newest);
        take(event);
      }}
    >
      Convert…
    </button>
  );
}
