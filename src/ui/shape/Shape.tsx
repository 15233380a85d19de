'use client';

import { ChevronLeft, ChevronRight } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import type { Sound } from '@/wire';
import { useChoice } from '../collect/choice';
import { useKeys } from '../shared/keys';
import { cutInMiddle } from '../shared/MiddleCut';
import { useProject } from '../shared/project';
import { ConvertButton } from '../convert/ConvertButton';
import { carry, pathFor } from './chosen';
import { Editor } from './Editor';
import { useLastSound, useRemembered } from './lastSound';

/** The second station: cuts, levels, repairs and joins. */
export function Shape({
  soundId,
  isLooping = false,
}: {
  soundId: number | null;
  /** Whether its loop is worked on, in place of its parts. */
  isLooping?: boolean;
}) {
  const { project, sounds } = useProject();
  const chosen = useChoice((choice) => choice.ids);
  const ready = sounds.filter((sound) => sound.facts !== null);
  const last = useLastSound(project.id);
  const at = (wanted: number | null) => ready.find(({ id }) => id === wanted);
  const sound = soundId === null ? (at(last) ?? ready[0]) : at(soundId);
  // Where the address names none, the first is only shown until it is known at which one somebody was.
  useRemembered(project.id, soundId === null ? undefined : sound?.id);
  if (!sound) {
    return (
      <div className="mx-auto max-w-xl px-6 py-16 text-center">
        <h1 className="font-serif text-3xl">Shape</h1>
        <p role="status" className="text-soft mt-2">
          {absence(sounds, soundId)}
        </p>
        <Link className="btn btn-paper btn-sm mt-5" href={`/p/${project.id}/collect`}>
          Go to Collect
        </Link>
      </div>
    );
  }
  return (
    <div className="px-6 py-4">
      <div className="mb-2 flex flex-wrap items-center gap-3">
        <h1 className="font-serif text-3xl">Shape</h1>
        <SoundPicker sounds={ready} sound={sound} isLooping={isLooping} />
        <Benches soundId={sound.id} isLooping={isLooping} />
        <span className="ml-auto flex gap-1">
          <ConvertButton ids={[sound.id]} className="btn btn-ghost btn-xs" />
          <Link
            className="btn btn-ghost btn-xs"
            title="One recipe for all sounds that are chosen in Collect"
            href={pathFor(project.id, 'several', [...chosen])}
            onClick={() => carry([...chosen])}
          >
            Shape several…
          </Link>
          <Link
            className="btn btn-ghost btn-xs"
            title="One sound out of this one and others"
            href={pathFor(project.id, 'join', chosen.size > 1 ? [...chosen] : [sound.id])}
            onClick={() => carry([...chosen])}
          >
            Join…
          </Link>
        </span>
      </div>
      <Editor key={sound.id} sound={sound} isLooping={isLooping} />
    </div>
  );
}

/** What one works on: parts of the sound, or its loop. */
function Benches({ soundId, isLooping }: { soundId: number; isLooping: boolean }) {
  const { project } = useProject();
  const router = useRouter();
  const path = `/p/${project.id}/shape/${soundId}`;
  useKeys({ 'shift+l': () => router.push(isLooping ? path : `${path}/loop`) });
  const bench = (href: string, name: string, isHere: boolean, tip: string) => (
    <Link
      href={href}
      aria-current={isHere ? 'page' : undefined}
      title={`${tip} (Shift+L changes between them)`}
      className="border-base-300 aria-[current]:bg-base-300 hover:bg-base-200 -ml-px border px-2.5 py-1 text-sm first:rounded-l last:rounded-r aria-[current]:font-semibold"
    >
      {name}
    </Link>
  );
  return (
    <nav aria-label="Bench" className="flex">
      {bench(path, 'Parts', !isLooping, 'Cut, level and repair parts of the sound')}
      {bench(`${path}/loop`, 'Loop', isLooping, 'Where it repeats, and how one hears that')}
    </nav>
  );
}

/** Why there is no sound to show. */
function absence(sounds: readonly Sound[], soundId: number | null): string {
  const waiting = sounds.find(({ id }) => id === soundId);
  if (waiting?.error) return `${waiting.error.message} ${waiting.error.hint}`;
  if (waiting?.join) return `“${waiting.name}” is being joined …`;
  if (waiting) return `“${waiting.name}” is being read …`;
  return sounds.some(({ facts }) => facts !== null)
    ? 'That sound is not here any more.'
    : 'There is no sound to shape yet. Bring one in first.';
}

/** What the closed list has room for. */
const MOST_LETTERS = 25;

function SoundPicker({
  sounds,
  sound,
  isLooping,
}: {
  sounds: readonly Sound[];
  sound: Sound;
  isLooping: boolean;
}) {
  const { project } = useProject();
  const router = useRouter();
  const at = sounds.indexOf(sound);
  const go = (target: Sound | undefined) =>
    target && router.push(`/p/${project.id}/shape/${target.id}${isLooping ? '/loop' : ''}`);
  useKeys({ pageup: () => go(sounds[at - 1]), pagedown: () => go(sounds[at + 1]) });
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
      {arrow(-1, 'Sound before this one (PgUp)', ChevronLeft)}
      <select
        className="select select-sm w-64 text-base font-semibold"
        aria-label="Sound"
        title={sound.name}
        value={sound.id}
        onChange={(event) => go(sounds.find(({ id }) => id === Number(event.target.value)))}
      >
        {sounds.map(({ id, name }) => (
          <option key={id} value={id}>
            {id === sound.id ? cutInMiddle(name, MOST_LETTERS) : name}
          </option>
        ))}
      </select>
      {arrow(1, 'Sound after this one (PgDn)', ChevronRight)}
      <span className="text-soft ml-2 text-xs">
        {at + 1} of {sounds.length}
      </span>
    </div>
  );
}
