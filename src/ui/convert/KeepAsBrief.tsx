'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { OneOffWish } from '@/core/oneOff/plan';
import { call } from '../shared/api';
import { Popover } from '../shared/Popover';
import { useProject } from '../shared/project';
import { useAction } from '../shared/useAction';

/** Keeps what is asked for under a name, so that sounds can be sent there. */
export function KeepAsBrief({
  ids,
  wish,
  suggestion,
}: {
  ids: readonly number[];
  wish: OneOffWish;
  suggestion: string;
}) {
  return (
    <Popover
      label="Keep as a brief"
      title="Keep what is asked for as a destination of this project"
      face="Keep as a brief…"
      className="btn btn-ghost btn-sm"
    >
      {(close) => <Form ids={ids} wish={wish} suggestion={suggestion} onDone={close} />}
    </Popover>
  );
}

function Form({
  ids,
  wish,
  suggestion,
  onDone,
}: {
  ids: readonly number[];
  wish: OneOffWish;
  suggestion: string;
  onDone: () => void;
}) {
  const { project } = useProject();
  const { run, busy } = useAction();
  const [name, setName] = useState(suggestion);
  const keep = () =>
    run(async () => {
      const path = `projects/${project.id}/briefs`;
      await call(path, 'POST', { name, sounds: ids, wish });
      toast.success(`Kept as “${name.trim()}”: sounds can be sent there, and Pack builds them.`);
      onDone();
    });
  return (
    // A form of its own would stand inside of another.
    <div className="w-72">
      <label className="block text-xs">
        Name of the destination
        <input
          className="input input-sm mt-1 w-full"
          maxLength={80}
          value={name}
          onFocus={(event) => event.target.select()}
          onChange={({ target }) => setName(target.value)}
          onKeyDown={(event) => {
            if (event.key !== 'Enter') return;
            event.preventDefault();
            if (name.trim() !== '' && !busy) void keep();
          }}
        />
      </label>
      <button
        type="button"
        className="btn btn-primary btn-sm mt-2"
        disabled={busy || name.trim() === ''}
        onClick={() => void keep()}
      >
        Keep it
      </button>
    </div>
  );
}
