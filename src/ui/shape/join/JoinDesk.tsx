'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
import type { Join } from '@/core/join/plan';
import type { Sound } from '@/wire';
import { call } from '../../shared/api';
import { useProject } from '../../shared/project';
import { useAction } from '../../shared/useAction';
import { useChosenFor } from '../chosen';
import { JoinForm } from './JoinForm';

/** A new sound out of several. */
export function JoinDesk({ address }: { address: string | undefined }) {
  const soundIds = useChosenFor(address);
  return <Desk key={soundIds.join()} soundIds={soundIds} />;
}

function Desk({ soundIds }: { soundIds: readonly number[] }) {
  const { project, sounds } = useProject();
  const router = useRouter();
  const { run, busy } = useAction();
  const [join, setJoin] = useState<Join>(() => ({
    parts: soundIds
      .filter((id) => sounds.some((sound) => sound.id === id && sound.facts !== null))
      .map((soundId) => ({ soundId, gapSeconds: 0 })),
    overlap: 'crossfade',
    rateHz: null,
    channelCount: null,
  }));
  const [name, setName] = useState('joined');
  const make = () =>
    void run(async () => {
      const made = await call<Sound>(`projects/${project.id}/joins`, 'POST', {
        name: name.trim(),
        join,
      });
      toast(`“${made.name}” is being joined.`);
      router.push(`/p/${project.id}/shape/${made.id}`);
    });
  return (
    <div className="px-6 py-5">
      <h1 className="font-serif text-3xl">Join</h1>
      <p className="text-soft mt-1 mb-4 max-w-3xl">
        Sounds one behind the other make a new sound, which follows when one of them changes. With
        gaps between short sounds it is a sheet: one file for a page, with a list of where each
        sound begins and how long it is.
      </p>
      <JoinForm join={join} onChange={setJoin} />
      <form
        className="border-base-300 mt-4 flex flex-wrap items-end gap-3 border-t pt-4"
        onSubmit={(event) => {
          event.preventDefault();
          make();
        }}
      >
        <label>
          <span className="text-soft mb-1 block text-xs font-semibold">Name of the new sound</span>
          <input
            className="input input-sm w-64"
            value={name}
            maxLength={80}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <button
          className="btn btn-primary btn-sm"
          disabled={busy || join.parts.length === 0 || name.trim() === ''}
        >
          Join them
        </button>
        <Link className="btn btn-ghost btn-sm" href={`/p/${project.id}/collect`}>
          Back to Collect
        </Link>
      </form>
    </div>
  );
}
