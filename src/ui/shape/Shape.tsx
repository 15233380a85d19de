'use client';

import { ChevronLeft, ChevronRight } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import type { Sound } from '@/wire';
import { useProject } from '../shared/project';
import { Editor } from './Editor';

/** The second station: marks the part of a sound that is used. */
export function Shape({ soundId }: { soundId: number | null }) {
  const { project, sounds } = useProject();
  const ready = sounds.filter((sound) => sound.facts !== null);
  const sound = soundId === null ? ready[0] : ready.find(({ id }) => id === soundId);
  if (!sound) {
    return (
      <div className="mx-auto max-w-xl px-6 py-16 text-center">
        <h1 className="font-serif text-3xl">Shape</h1>
        <p className="text-soft mt-2">
          {ready.length === 0
            ? 'There is no sound to shape yet. Bring one in first.'
            : 'That sound is not here, or has not been read yet.'}
        </p>
        <Link className="btn btn-paper btn-sm mt-5" href={`/p/${project.id}/collect`}>
          Go to Collect
        </Link>
      </div>
    );
  }
  return (
    <div className="px-6 py-5">
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <h1 className="font-serif text-3xl">Shape</h1>
        <SoundPicker sounds={ready} sound={sound} />
      </div>
      <Editor key={sound.id} sound={sound} />
    </div>
  );
}

function SoundPicker({ sounds, sound }: { sounds: readonly Sound[]; sound: Sound }) {
  const { project } = useProject();
  const router = useRouter();
  const at = sounds.indexOf(sound);
  const go = (target: Sound | undefined) =>
    target && router.push(`/p/${project.id}/shape/${target.id}`);
  const arrow = (by: number, label: string, Icon: typeof ChevronLeft) => (
    <button
      className="btn btn-ghost btn-sm btn-square"
      aria-label={label}
      title={label}
      disabled={!sounds[at + by]}
      onClick={() => go(sounds[at + by])}
    >
      <Icon size={17} />
    </button>
  );
  return (
    <div className="flex items-center">
      {arrow(-1, 'Sound before this one', ChevronLeft)}
      <select
        className="select select-sm w-64 text-base font-semibold"
        aria-label="Sound"
        value={sound.id}
        onChange={(event) => go(sounds.find(({ id }) => id === Number(event.target.value)))}
      >
        {sounds.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
      {arrow(1, 'Sound after this one', ChevronRight)}
      <span className="text-soft ml-2 text-xs">
        {at + 1} of {sounds.length}
      </span>
    </div>
  );
}
