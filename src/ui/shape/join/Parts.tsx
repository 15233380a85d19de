'use client';

import { useState } from 'react';
import type { Join, SheetLine } from '@/core/join/plan';
import { recipeKey } from '@/core/recipe/recipe';
import { useQuery } from '@tanstack/react-query';
import type { Sound } from '@/wire';
import { call } from '../../shared/api';
import { count } from '../../shared/format';
import { MiddleCut } from '../../shared/MiddleCut';
import { useAction } from '../../shared/useAction';
import { useChange } from '../../shared/useChange';
import { JoinForm } from './JoinForm';

/** What a joined sound is made of, to be changed; and its sheet of offsets. */
export function Parts({ sound, join }: { sound: Sound; join: Join }) {
  const { run, busy } = useAction();
  const [draft, setDraft] = useState<Join | null>(null);
  const { change } = useChange();
  const save = async () => {
    if (draft && (await change<Sound>(`sounds/${sound.id}/join`, 'PUT', draft))) setDraft(null);
  };
  return (
    <section aria-label="Parts of this sound" className="border-base-300 mt-4 border-t pt-3">
      <h2 className="font-serif text-xl">Joined of</h2>
      {sound.error && (
        <p className="text-error my-1">
          {sound.error.message} {sound.error.hint}{' '}
          <button
            className="btn btn-paper btn-xs"
            disabled={busy}
            onClick={() => void run(() => call(`sounds/${sound.id}/again`, 'POST'))}
          >
            Join again
          </button>
        </p>
      )}
      {sound.state === 'reading' && !sound.error && (
        <p className="text-soft my-1">Its parts have changed: it is being joined anew …</p>
      )}
      <JoinForm join={draft ?? join} self={sound.id} onChange={setDraft} />
      {draft && (
        <div className="mt-2 flex gap-2">
          <button className="btn btn-primary btn-sm" disabled={busy} onClick={() => void save()}>
            Join them so
          </button>
          <button className="btn btn-ghost btn-sm" onClick={() => setDraft(null)}>
            Leave it as it was
          </button>
        </div>
      )}
      {sound.joined && <Sheet sound={sound} />}
    </section>
  );
}

interface SheetAnswer {
  rateHz: number;
  sounds: SheetLine[];
}

/** Where each part begins in the sound as it is delivered, for pages that play one file in pieces. */
function Sheet({ sound }: { sound: Sound }) {
  const { data } = useQuery({
    queryKey: ['sheet', sound.id, sound.joined?.key, recipeKey(sound.recipe)],
    queryFn: () => call<SheetAnswer>(`sounds/${sound.id}/sheet`),
    retry: false,
  });
  if (!data) return null;
  const link = (format: string, name: string) => (
    <a
      className="btn btn-paper btn-xs"
      href={`/api/sounds/${sound.id}/sheet?format=${format}`}
      download
    >
      {name}
    </a>
  );
  return (
    <details className="mt-3">
      <summary className="cursor-pointer font-serif text-lg">
        Sheet: where each part begins, behind the recipe
      </summary>
      <div className="my-1.5 flex gap-1.5">
        {link('json', 'Offsets as JSON')}
        {link('csv', 'Offsets as CSV')}
      </div>
      <table className="text-right" aria-label="Sheet">
        <thead className="text-soft text-xs">
          <tr>
            <th className="pr-6 text-left font-semibold">Sound</th>
            <th className="pr-6 font-semibold">start, s</th>
            <th className="pr-6 font-semibold">length, s</th>
            <th className="pr-6 font-semibold">start, frames</th>
            <th className="font-semibold">length, frames</th>
          </tr>
        </thead>
        <tbody>
          {data.sounds.map((line, i) => (
            <tr key={i}>
              <td className="max-w-96 pr-6 text-left">
                <MiddleCut text={line.name} />
              </td>
              <td className="pr-6">{line.startSeconds.toFixed(6)}</td>
              <td className="pr-6">{line.seconds.toFixed(6)}</td>
              <td className="pr-6">{count(line.startFrame)}</td>
              <td>{count(line.frames)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
