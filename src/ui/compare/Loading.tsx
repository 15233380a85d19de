'use client';

import { Fragment, useState } from 'react';
import {
  checkLoad,
  loadPolicies,
  middleCost,
  usualLoad,
  voicesPerCore,
  type LoadCost,
  type LoadedSound,
  type LoadSettings,
} from '@/core/compare/load';
import { loadedSound } from '@/core/compare/measured';
import type { CandidateRow } from '@/core/compare/rows';
import { BijouError } from '@/core/errors';
import { quantile } from '@/core/measure/statistics';
import type { Trial } from '@/wire';
import { count, size } from '../shared/format';
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
    const sounds = row.measured.flatMap((trial) => loadedSound(trial) ?? []);
    return sounds.length === 0 ? [] : [{ row, sounds }];
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

interface Known {
  row: CandidateRow<Trial>;
  sounds: readonly LoadedSound[];
}

function Costs({ known, settings }: { known: readonly Known[]; settings: LoadSettings }) {
  const costs = known.map(({ row, sounds }) => ({
    row,
    voices: quantile(
      sounds.map(({ msPerSecond }) => voicesPerCore(msPerSecond, settings.slower)),
      0.5,
    ),
    byPolicy: loadPolicies.map((policy) =>
      middleCost(sounds.map((sound) => policy.cost(sound, settings))),
    ),
  }));
  const most = (pick: (cost: LoadCost) => number) =>
    Math.max(...costs.flatMap(({ byPolicy }) => byPolicy.map(pick)), 1e-12);
  const scale = { bytes: most((one) => one.residentBytes), cpu: most((one) => one.cpu.high) };
  return (
    <>
      <div className="border-base-300 bg-base-100 shrink-0 overflow-x-auto border">
        <table className="w-full text-sm" aria-label="Memory and work">
          <thead className="bg-base-200">
            <tr className="text-left align-bottom">
              <th className="px-3 py-1.5 text-xs font-semibold" rowSpan={2}>
                Candidate
              </th>
              {loadPolicies.map(({ id, name, says }) => (
                <th
                  key={id}
                  colSpan={3}
                  className="border-base-300 border-l px-3 pt-1.5 font-serif text-base font-normal"
                  title={says}
                >
                  {name}
                </th>
              ))}
              <th className="border-base-300 border-l px-3 text-xs font-semibold" rowSpan={2}>
                Voices a core
              </th>
            </tr>
            <tr className="text-soft border-base-300 border-b text-left text-xs">
              {loadPolicies.map(({ id, formulas }) => (
                <Fragment key={id}>
                  <th
                    className="border-base-300 border-l px-3 pb-1 font-semibold"
                    title={formulas.residentBytes}
                  >
                    Memory
                  </th>
                  <th className="px-2 pb-1 font-semibold" title={formulas.cpu}>
                    Of one core
                  </th>
                  <th className="px-2 pb-1 font-semibold" title={formulas.loadSeconds}>
                    Loads in
                  </th>
                </Fragment>
              ))}
            </tr>
          </thead>
          <tbody>
            {costs.map(({ row, byPolicy, voices }) => (
              <tr key={row.key} className="border-base-300 border-b last:border-0">
                <th className="px-3 py-1 text-left font-normal whitespace-nowrap">
                  <span style={{ color: `var(${markOf(row.candidate).colour})` }}>
                    {markOf(row.candidate).sign}
                  </span>{' '}
                  {row.name}
                </th>
                {byPolicy.map((cost, i) => (
                  <Cost key={loadPolicies[i]!.id} cost={cost} scale={scale} />
                ))}
                <td className="border-base-300 border-l px-3 text-right">
                  {count(Math.floor(voices))}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <Formulas />
    </>
  );
}

function Cost({ cost, scale }: { cost: LoadCost; scale: { bytes: number; cpu: number } }) {
  const { residentBytes, cpu, loadSeconds, readsPerSecond } = cost;
  return (
    <>
      <td className="border-base-300 min-w-28 border-l px-3">
        <Bar share={residentBytes / scale.bytes} />
        <span className="text-xs">{size(Math.round(residentBytes))}</span>
      </td>
      <td className="min-w-24 px-2">
        <Bar share={cpu.median / scale.cpu} low={cpu.low / scale.cpu} high={cpu.high / scale.cpu} />
        <span className={`text-xs ${cpu.median > 1 ? 'text-error' : ''}`}>
          {percent(cpu.median)}
          {cpu.median > 1 && ' – more than one'}
        </span>
      </td>
      <td className="px-2 text-xs whitespace-nowrap">
        {seconds(loadSeconds)}
        {readsPerSecond > 0 && (
          <span className="text-soft block">{count(Math.ceil(readsPerSecond))} reads/s</span>
        )}
      </td>
    </>
  );
}

/** How every figure comes about. */
function Formulas() {
  const lines: readonly { of: keyof LoadCost; name: string }[] = [
    { of: 'residentBytes', name: 'Memory' },
    { of: 'cpu', name: 'Of one core' },
    { of: 'loadSeconds', name: 'Loads in' },
    { of: 'readsPerSecond', name: 'Reads a second' },
  ];
  return (
    <section
      aria-label="How it is worked out"
      className="text-soft grid gap-3 text-xs lg:grid-cols-3"
    >
      {loadPolicies.map(({ id, name, says, formulas }) => (
        <div key={id}>
          <p>
            <strong>{name}.</strong> {says}
          </p>
          <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-2">
            {lines.map(({ of, name: what }) => (
              <Fragment key={of}>
                <dt>{what}</dt>
                <dd>{formulas[of]}</dd>
              </Fragment>
            ))}
          </dl>
        </div>
      ))}
      <p className="lg:col-span-3">
        Worked out from what was measured; voices are not really played here. The bar’s line is the
        spread of the measured cost.
      </p>
    </section>
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
