'use client';

import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { Brief } from '@/core/brief/schema';
import type { Cell, Sound } from '@/wire';
import { plural } from '../../shared/format';
import { MiddleCut } from '../../shared/MiddleCut';
import { Popover } from '../../shared/Popover';
import { useProject } from '../../shared/project';
import { SoundSearch } from '../../shared/SoundSearch';
import { useSending } from '../../shared/useSending';

/** Sends sounds to a destination, as many as are ticked, out of a list that can be searched. */
export function AddSound({ brief, cells }: { brief: Brief; cells: readonly Cell[] }) {
  const { sounds } = useProject();
  const assigned = new Set(cells.map(({ soundId }) => soundId));
  const free = sounds.filter(({ id, facts }) => facts !== null && !assigned.has(id));
  return (
    <Popover
      label={`Add sounds to ${brief.title}`}
      disabled={free.length === 0}
      title={free.length === 0 ? 'All sounds go here already' : 'Send sounds here'}
      face={
        <>
          <Plus size={15} aria-hidden /> {free.length === 0 ? 'All sounds are here' : 'Add sounds'}
        </>
      }
    >
      {(close) => <Choice brief={brief} free={free} onDone={close} />}
    </Popover>
  );
}

function Choice({
  brief,
  free,
  onDone,
}: {
  brief: Brief;
  free: readonly Sound[];
  onDone: () => void;
}) {
  const { send, busy } = useSending();
  const [ticked, setTicked] = useState<ReadonlySet<number>>(new Set());
  const chosen = free.filter(({ id }) => ticked.has(id));
  const tick = (id: number) => {
    const next = new Set(ticked);
    if (!next.delete(id)) next.add(id);
    setTicked(next);
  };
  const submit = (sounds: readonly Sound[]) => {
    if (sounds.length === 0) return;
    void send(
      sounds.map(({ id }) => id),
      brief,
    );
    onDone();
  };
  return (
    <SoundSearch
      sounds={free}
      // What was typed and fits one sound alone means that one.
      onEnter={(found, typed) =>
        submit(chosen.length > 0 ? chosen : typed && found.length === 1 ? found : [])
      }
      line={({ id, name }) => (
        <label className="hover:bg-base-200 flex items-center gap-2 rounded px-2 py-1">
          <input
            type="checkbox"
            className="checkbox checkbox-xs checkbox-primary"
            checked={ticked.has(id)}
            onChange={() => tick(id)}
          />
          <MiddleCut text={name} />
        </label>
      )}
      below={(found) => (
        <div className="border-base-300 mt-2 flex flex-wrap items-center gap-2 border-t pt-2">
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={busy || chosen.length === 0}
            onClick={() => submit(chosen)}
          >
            {chosen.length === 0 ? 'Send' : `Send ${plural(chosen.length, 'sound')}`}
          </button>
          <button
            type="button"
            className="btn btn-paper btn-sm"
            disabled={found.length === 0}
            onClick={() => setTicked(new Set(found.map(({ id }) => id)))}
          >
            Tick {found.length === free.length ? 'all' : 'those found'} ({found.length})
          </button>
        </div>
      )}
    />
  );
}
