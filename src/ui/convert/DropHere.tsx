'use client';

import { Upload } from 'lucide-react';
import type { OneOffSet } from '@/wire';
import { plural } from '../shared/format';
import { useProject } from '../shared/project';
import { useIntake } from '../collect/intake/DropAnywhere';
import { showConversion, useConvert } from './convert';

/** What the sheet shows while nothing is chosen: drop something on it. */
export function DropHere({ latest }: { latest: OneOffSet | null }) {
  const { chooseFiles } = useIntake();
  const { sounds } = useProject();
  const ready = sounds.filter(({ state }) => state === 'ready');
  return (
    <div className="border-base-300 mt-4 border-2 border-dashed py-12 text-center">
      <Upload size={28} aria-hidden className="text-soft mx-auto" />
      <p className="font-serif mt-2 text-xl">Drop the files here that you want converted</p>
      <p className="mt-2 flex flex-wrap justify-center gap-2">
        <button className="btn btn-primary btn-sm" onClick={chooseFiles}>
          Choose files
        </button>
        {ready.length > 0 && (
          <button
            className="btn btn-paper btn-sm"
            onClick={() => useConvert.setState({ ids: ready.map(({ id }) => id) })}
          >
            {ready.length === 1
              ? 'The sound of this project'
              : `All ${plural(ready.length, 'sound')}`}
          </button>
        )}
        {latest && (
          <button className="btn btn-ghost btn-sm" onClick={() => showConversion(latest.id)}>
            What came of the last conversion
          </button>
        )}
      </p>
    </div>
  );
}
