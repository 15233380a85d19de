'use client';

import { Plus } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { toast } from 'sonner';
import type { Sound } from '@/wire';
import { call } from '../shared/api';
import { formatTime, plural, size } from '../shared/format';
import { useProject } from '../shared/project';
import { useAction } from '../shared/useAction';
import { cue, play } from '../strip/listening';
import { versionsOf } from '../strip/versions';
import { Arrivals } from './Arrivals';
import { useIntake } from './DropAnywhere';
import { SoundRow } from './SoundRow';

/** The first station: what has come in, and what each of it is. */
export function Collect() {
  const { project, sounds, lines } = useProject();
  const router = useRouter();
  const { choose } = useIntake();
  const { run } = useAction();
  const [chosenId, setChosenId] = useState<number | null>(null);
  const listed = sounds.filter((sound) => sound.state !== 'refused');
  const chosen = listed.find((sound) => sound.id === chosenId);

  const select = (sound: Sound) => {
    setChosenId(sound.id);
    cue(sound.name, versionsOf(sound, lines));
  };
  const playFrom = (sound: Sound, frame: number) => {
    select(sound);
    cue(sound.name, versionsOf(sound, lines), `source-${sound.id}`);
    play({ frame, range: null });
  };
  const step = (by: number) => {
    const at = listed.findIndex((sound) => sound.id === chosenId);
    const next = listed[Math.max(0, Math.min(listed.length - 1, at + by))];
    if (!next) return;
    select(next);
    document.getElementById(`sound-${next.id}`)?.scrollIntoView({ block: 'nearest' });
  };
  const setRemoved = (sound: Sound, removed: boolean) =>
    run(() => call(`sounds/${sound.id}`, 'PATCH', { removed }));
  const remove = async (sound: Sound) => {
    if (!(await setRemoved(sound, true))) return;
    toast(`“${sound.name}” was taken out.`, {
      action: { label: 'Undo', onClick: () => void setRemoved(sound, false) },
    });
  };
  useHotkeys('down', () => step(1), { preventDefault: true }, [listed, chosenId]);
  useHotkeys('up', () => step(-1), { preventDefault: true }, [listed, chosenId]);
  useHotkeys('enter', () => chosen && router.push(`/p/${project.id}/shape/${chosen.id}`), [chosen]);
  useHotkeys('delete', () => chosen && void remove(chosen), [chosen]);

  return (
    <div className="px-6 py-5">
      <div className="mb-4 flex flex-wrap items-baseline gap-x-4">
        <h1 className="font-serif text-3xl">Collect</h1>
        {listed.length > 0 && <p className="text-soft">{summary(listed)}</p>}
        <button className="btn btn-primary btn-sm ml-auto self-center" onClick={choose}>
          <Plus size={15} /> Bring in files
        </button>
      </div>
      <Arrivals />
      {listed.length === 0 ? (
        <Empty />
      ) : (
        <SoundTable>
          {listed.map((sound) => (
            <SoundRow
              key={sound.id}
              sound={sound}
              lines={lines}
              isChosen={sound.id === chosenId}
              onChoose={() => select(sound)}
              onPlay={(frame) => playFrom(sound, frame)}
              onRemove={() => void remove(sound)}
            />
          ))}
        </SoundTable>
      )}
    </div>
  );
}

function summary(sounds: readonly Sound[]): string {
  const seconds = sounds.reduce((sum, { facts }) => sum + (facts?.seconds ?? 0), 0);
  const bytes = sounds.reduce((sum, sound) => sum + sound.bytes, 0);
  return `${plural(sounds.length, 'sound')}, ${formatTime(seconds, 0)} in all, ${size(bytes)}`;
}

function SoundTable({ children }: { children: React.ReactNode }) {
  const heading = 'text-soft px-2 pb-1.5 text-xs font-semibold';
  return (
    <div className="relative overflow-x-auto">
      <table className="w-full min-w-[66rem] border-separate border-spacing-0">
        <thead>
          <tr className="text-left">
            <th className={`${heading} w-56 pl-0`}>Listen</th>
            <th className={heading}>Name</th>
            <th className={heading}>Found inside</th>
            <th className={`${heading} text-right`}>Rate</th>
            <th className={heading}>Channels</th>
            <th className={`${heading} text-right`}>Length</th>
            <th className={`${heading} text-right`}>Size</th>
            <th
              className={`${heading} text-right`}
              title="Loudest place, also between the samples, dB below full scale"
            >
              True peak dBTP
            </th>
            <th className={`${heading} text-right`} title="Loudness of the whole sound">
              LUFS
            </th>
            <th className={heading}>Goes to</th>
            <th className={heading}>
              <span className="sr-only">Actions</span>
            </th>
          </tr>
        </thead>
        <tbody>{children}</tbody>
      </table>
    </div>
  );
}

function Empty() {
  const { choose } = useIntake();
  return (
    <div className="border-base-300 mx-auto mt-10 max-w-xl border-y py-10 text-center">
      <p className="font-serif text-2xl">Nothing here yet</p>
      <p className="text-soft mt-2 leading-relaxed">
        Drop sounds anywhere on this page, or{' '}
        <button className="link link-primary" onClick={choose}>
          choose files
        </button>
        . Bijou reads WAV, AIFF, FLAC, MP3, Ogg, Opus, WebM, AAC, M4A and the sound of MP4 and MOV
        video; raw samples when you say what they are. Your files stay as they are: everything that
        is done to a sound is kept beside it, never in it.
      </p>
    </div>
  );
}
