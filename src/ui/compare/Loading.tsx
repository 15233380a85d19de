'use client';

import { useState } from 'react';
import {
  checkLoad,
  loadPolicies,
  usualLoad,
  voicesPerCore,
  type LoadCost,
  type LoadSettings,
} from '@/core/compare/load';
import { loadedSound } from '@/core/compare/measured';
import type { CandidateRow } from '@/core/compare/rows';
import { BijouError } from '@/core/errors';
import type { Trial } from '@/wire';
import { count, plural, size } from '../shared/format';
import { markOf } from './codecs';

const fields: readonly { name: keyof LoadSettings; label: string; unit: string }[] = [
  { name: 'voices', label: 'Voices at once', unit: '' },
  { name: 'mixRateHz', label: 'Mix rate', unit: 'Hz' },
  { name: 'blockFrames', label: 'Block', unit: 'frames' },
  { name: 'readBytes', label: 'Read size', unit: 'bytes' },
  { name: 'storageMbits', label: 'Storage', unit: 'Mbit/s' },
];

/** What candidates need in memory and work, by the way in which they are loaded. */
export function Loading({ rows }: { rows: readonly CandidateRow<Trial>[] }) {
  const [settings, setSettings] = useState<LoadSettings>({ ...usualLoad, voices: 32 });
  const [texts, setTexts] = useState<Partial<Record<keyof LoadSettings, string>>>({});
  const problem = problemOf(settings);
  const set = (name: keyof LoadSettings, text: string) => {
    setTexts({ ...texts, [name]: text });
    setSettings({ ...settings, [name]: text.trim() === '' ? NaN : Number(text) });
  };
  const known = rows.flatMap((row) => {
    const trial = row.measured.find(({ work }) => work !== null);
    const sound = trial && loadedSound(trial);
    return sound ? [{ row, sound }] : [];
  });
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
            A device {settings.slower.toFixed(settings.slower < 10 ? 1 : 0)} × slower than this
            machine
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
        <Costs known={known} settings={settings} />
      )}
      {known.length === 0 && <p className="text-soft">What decoding costs is not measured yet.</p>}
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

type Known = {
  row: CandidateRow<Trial>;
  sound: NonNullable<ReturnType<typeof loadedSound>>;
};

function Costs({ known, settings }: { known: readonly Known[]; settings: LoadSettings }) {
  const costs = known.map(({ row, sound }) => ({
    row,
    sound,
    byPolicy: loadPolicies.map((policy) => policy.cost(sound, settings)),
  }));
  const most = (pick: (cost: LoadCost) => number) =>
    Math.max(...costs.flatMap(({ byPolicy }) => byPolicy.map(pick)), 1e-12);
  const [mostBytes, mostCpu] = [most((one) => one.residentBytes), most((one) => one.cpu.high)];
  return (
    <>
      <div className="grid gap-3 xl:grid-cols-3">
        {loadPolicies.map(({ id, name, says, formulas }, i) => (
          <section key={id} aria-label={name} className="border-base-300 bg-base-100 border p-3">
            <h3 className="font-serif text-lg">{name}</h3>
            <p className="text-soft mb-2 text-xs">{says}</p>
            <table className="w-full text-sm">
              <thead>
                <tr className="text-soft text-left text-xs">
                  <th className="font-semibold">Candidate</th>
                  <th className="font-semibold" title={formulas.residentBytes}>
                    Memory
                  </th>
                  <th className="font-semibold" title={formulas.cpu}>
                    Of one core
                  </th>
                  <th className="text-right font-semibold" title={formulas.loadSeconds}>
                    Loads in
                  </th>
                </tr>
              </thead>
              <tbody>
                {costs.map(({ row, byPolicy }) => {
                  const cost = byPolicy[i]!;
                  const { sign, colour } = markOf(row.candidate);
                  return (
                    <tr key={row.key} className="border-base-300 border-t">
                      <th
                        className="max-w-32 truncate py-1 pr-2 text-left font-normal"
                        title={row.name}
                      >
                        <span style={{ color: `var(${colour})` }}>{sign}</span> {row.name}
                      </th>
                      <td className="w-1/4 pr-2">
                        <Bar share={cost.residentBytes / mostBytes} />
                        <span className="text-xs">{size(cost.residentBytes)}</span>
                      </td>
                      <td className="w-1/4 pr-2">
                        <Bar
                          share={cost.cpu.median / mostCpu}
                          low={cost.cpu.low / mostCpu}
                          high={cost.cpu.high / mostCpu}
                        />
                        <span className={`text-xs ${cost.cpu.median > 1 ? 'text-error' : ''}`}>
                          {percent(cost.cpu.median)}
                          {cost.cpu.median > 1 && ' – more than one'}
                        </span>
                      </td>
                      <td className="text-right text-xs whitespace-nowrap">
                        {seconds(cost.loadSeconds)}
                        {cost.readsPerSecond > 0 && (
                          <span className="text-soft block">
                            {count(Math.ceil(cost.readsPerSecond))} reads/s
                          </span>
                        )}
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
            <dl className="text-soft mt-2 grid grid-cols-[auto_1fr] gap-x-2 text-xs">
              <dt>Memory</dt>
              <dd>{formulas.residentBytes}</dd>
              <dt>Of one core</dt>
              <dd>{formulas.cpu}</dd>
              <dt>Loads in</dt>
              <dd>{formulas.loadSeconds}</dd>
              <dt>Reads</dt>
              <dd>{formulas.readsPerSecond}</dd>
            </dl>
          </section>
        ))}
      </div>
      <p className="text-soft text-xs">
        One core of such a device decodes at once:{' '}
        {costs
          .map(
            ({ row, sound }) =>
              `${plural(Math.floor(voicesPerCore(sound.msPerSecond, settings.slower)), 'voice')} of ${row.name}`,
          )
          .join(', ')}
        . Worked out from what was measured; voices are not really played here.
      </p>
    </>
  );
}

function Bar({ share, low, high }: { share: number; low?: number; high?: number }) {
  const at = (value: number) => `${Math.max(0, Math.min(100, 100 * value))}%`;
  return (
    <span aria-hidden className="bg-base-200 relative block h-2">
      <span className="bg-primary absolute inset-y-0 left-0" style={{ width: at(share) }} />
      {low !== undefined && high !== undefined && high > low && (
        <span
          className="border-base-content absolute top-1/2 border-t"
          style={{ left: at(low), width: at(high - low) }}
        />
      )}
    </span>
  );
}

function percent(share: number): string {
  if (share === 0) return 'none';
  const value = 100 * share;
  return `${value < 10 ? value.toFixed(1) : count(Math.round(value))} %`;
}

function seconds(value: number): string {
  return value < 1 ? `${(value * 1000).toFixed(value < 0.01 ? 1 : 0)} ms` : `${value.toFixed(1)} s`;
}
