'use client';

import { useState } from 'react';
import { checkLoad } from '@/core/compare/load';
import type { LoadSettings } from '@/core/compare/load';
import type { CandidateRow } from '@/core/compare/rows';
import { BijouError } from '@/core/errors';
import type { Trial } from '@/wire';
import { useLook } from '../look';
import { LoadTable } from './LoadTable';

const fields: readonly { name: keyof LoadSettings; label: string; unit: string }[] = [
  { name: 'voices', label: 'Voices at once', unit: '' },
  { name: 'mixRateHz', label: 'Mix rate', unit: 'Hz' },
  { name: 'blockFrames', label: 'Block', unit: 'frames' },
  { name: 'readBytes', label: 'Read size', unit: 'bytes' },
  { name: 'storageMbits', label: 'Storage', unit: 'Mbit/s' },
];

/** What candidates need in memory and work, by the way in which they are loaded. */
export function Loading({ rows }: { rows: readonly CandidateRow<Trial>[] }) {
  const settings = useLook((look) => look.load);
  const setSettings = (load: LoadSettings) => useLook.setState({ load });
  const [texts, setTexts] = useState<Partial<Record<keyof LoadSettings, string>>>({});
  const problem = problemOf(settings);
  const set = (name: keyof LoadSettings, text: string) => {
    setTexts({ ...texts, [name]: text });
    setSettings({ ...settings, [name]: text.trim() === '' ? NaN : Number(text) });
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto">
      <div className="flex flex-wrap items-end gap-3">
        {fields.map(({ name, label, unit }) => (
          <label key={name} className="text-xs">
            <span className="text-soft">
              {label}
              {unit && `, ${unit}`}
            </span>
            <input
              className="input input-sm mt-1 block w-28"
              inputMode="numeric"
              aria-invalid={problem?.field === name}
              value={texts[name] ?? String(settings[name])}
              onChange={(event) => set(name, event.target.value)}
            />
          </label>
        ))}
        <label className="text-xs">
          <span className="text-soft">
            {settings.slower === 1
              ? 'A device as quick as this machine'
              : `A device ${settings.slower.toFixed(settings.slower < 10 ? 1 : 0)} × slower than this machine`}
          </span>
          <input
            type="range"
            className="range range-xs mt-2 block w-56"
            min={0}
            max={60}
            // In equal steps of its logarithm, from 1 to 60.
            value={Math.round((60 * Math.log(settings.slower)) / Math.log(60))}
            onChange={({ target: { value } }) =>
              setSettings({
                ...settings,
                slower: Math.round(10 * 60 ** (Number(value) / 60)) / 10,
              })
            }
          />
        </label>
      </div>
      {problem ? (
        <p role="alert" className="text-error">
          {problem.message} {problem.hint}
        </p>
      ) : (
        <LoadTable rows={rows} settings={settings} />
      )}
    </div>
  );
}

function problemOf(settings: LoadSettings): BijouError | null {
  try {
    checkLoad(settings);
    return null;
  } catch (error) {
    if (error instanceof BijouError) return error;
    throw error;
  }
}
