'use client';

import { Brush } from 'lucide-react';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import type { Waste } from '@/wire';
import { call } from '../shared/api';
import { plural, size } from '../shared/format';
import { Popover } from '../shared/Popover';
import { useProject } from '../shared/project';
import { useAction } from '../shared/useAction';

/** Says what a clean-up would free before it is done: it is the one thing that cannot be undone. */
export function CleanUp() {
  return (
    <Popover
      label="Clean up"
      face={
        <>
          <Brush size={14} aria-hidden /> Clean up
        </>
      }
      title="Free the room of what was taken out"
    >
      {(close) => <Panel onDone={close} />}
    </Popover>
  );
}

function Panel({ onDone }: { onDone: () => void }) {
  const { project } = useProject();
  const { run, busy } = useAction();
  const [waste, setWaste] = useState<Waste | null>(null);
  useEffect(() => {
    void call<Waste>(`projects/${project.id}/cleanup`)
      .then(setWaste)
      .catch(() => undefined);
  }, [project.id]);
  if (!waste) return <p className="text-soft">Looking…</p>;
  const { removedSounds, replacedSources, earlierBuilds, removedPacks, bytes } = waste;
  const parts = [
    removedSounds > 0 && plural(removedSounds, 'sound that was taken out'),
    replacedSources > 0 && plural(replacedSources, 'source that was replaced'),
    earlierBuilds > 0 && plural(earlierBuilds, 'earlier build'),
    removedPacks > 0 && plural(removedPacks, 'removed pack'),
  ].filter(Boolean);
  if (parts.length === 0 && bytes > 0) parts.push('files that were built of what is gone');
  if (parts.length === 0) {
    return (
      <p className="text-soft w-56">There is nothing to clean up: all that is stored is in use.</p>
    );
  }
  const cleanUp = async () => {
    const went = await run(() => call(`projects/${project.id}/cleanup`, 'POST'));
    if (went) toast(`${size(bytes)} freed.`);
    onDone();
  };
  return (
    <div className="w-64 space-y-2">
      <p>
        {parts.join(', ')}: <strong>{size(bytes)}</strong> to free.
      </p>
      <p className="text-soft">They cannot be brought back afterwards, and undo begins anew.</p>
      <button className="btn btn-primary btn-sm" disabled={busy} onClick={() => void cleanUp()}>
        Free {size(bytes)}
      </button>
    </div>
  );
}
