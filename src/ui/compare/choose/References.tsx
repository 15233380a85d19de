'use client';

import { useEffect, useState } from 'react';
import { references } from '@/core/compare/reference';
import { askServer } from '@/player/asking';
import { bringIn } from '../../collect/intake/sending';
import { Popover } from '../../shared/Popover';
import { useProject } from '../../shared/project';
import { useAction } from '../../shared/useAction';
import { toggleSound } from './choice';

/** The group in which they lie. */
const GROUP = 'reference';

/** Signals whose answer to a codec is known; they come in like any file. */
export function References() {
  const { project, sounds } = useProject();
  const { run, busy } = useAction();
  const [awaited, setAwaited] = useState<{ name: string; since: number } | null>(null);
  const arrived = sounds.find(
    ({ id, name, state }) =>
      awaited !== null && id > awaited.since && name.startsWith(awaited.name) && state === 'ready',
  )?.id;
  // It was brought in to be tried.
  useEffect(() => {
    if (arrived === undefined) return;
    toggleSound(arrived);
    setAwaited(null);
  }, [arrived]);
  const bring = (id: string, name: string) =>
    run(async () => {
      const response = await askServer(`/api/references/${id}`);
      const file = new File([await response.blob()], `${name}.wav`, { type: 'audio/wav' });
      setAwaited({ name, since: sounds.reduce((most, sound) => Math.max(most, sound.id), 0) });
      await bringIn(project.id, [{ path: `${GROUP}/${file.name}`, file }]);
    });
  return (
    <Popover
      label="Bring in a reference signal"
      title="Signals whose answer to a codec is known beforehand"
      face="Reference signals…"
      className="btn btn-paper btn-xs"
    >
      {(close) => (
        <div className="w-80">
          <p className="text-soft mb-1 text-xs">
            Each comes in as a sound of ten seconds, and can be taken out again like any other.
          </p>
          <ul>
            {references.map(({ id, name, says }) => (
              <li key={id}>
                <button
                  className="hover:bg-base-200 w-full rounded px-2 py-1 text-left"
                  disabled={busy}
                  onClick={() => {
                    close();
                    void bring(id, name);
                  }}
                >
                  <strong className="block font-semibold">{name}</strong>
                  <span className="text-soft block text-xs">{says}</span>
                </button>
              </li>
            ))}
          </ul>
        </div>
      )}
    </Popover>
  );
}
