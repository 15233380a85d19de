import { Fragment } from 'react';
import { columnNumber, trialColumn } from '@/core/compare/columns';
import {
  loadPolicies,
  middleCost,
  voicesPerCore,
  type LoadCost,
  type LoadSettings,
} from '@/core/compare/load';
import { loadedSound } from '@/core/compare/measured';
import { rowValue, type CandidateRow } from '@/core/compare/rows';
import { quantile } from '@/core/measure/statistics';
import type { Trial } from '@/wire';
import { count, size } from '../../shared/format';
import { markOf } from '../codecs';

const native = trialColumn('nativeCost');

/** What each candidate needs by each way of loading, as bars on one scale, and how that is worked out. */
export function LoadTable({
  rows,
  settings,
  isNarrow = false,
}: {
  rows: readonly CandidateRow<Trial>[];
  settings: LoadSettings;
  isNarrow?: boolean;
}) {
  const known = rows.flatMap((row) => {
    const sounds = row.measured.flatMap((trial) => loadedSound(trial) ?? []);
    return sounds.length === 0 ? [] : [{ row, sounds }];
  });
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
  if (known.length === 0) {
    return <p className="text-soft">What decoding costs is not measured yet.</p>;
  }
  const scale = { bytes: most((one) => one.residentBytes), cpu: most((one) => one.cpu.high) };
  return (
    <>
      {/* Narrow windows show a part of it, which keys move as well. */}
      <div
        role="region"
        aria-label="Ways of loading"
        tabIndex={0}
        className="border-base-300 bg-base-100 shrink-0 overflow-x-auto border print:overflow-visible"
      >
        <table
          className={`w-full ${isNarrow ? 'text-xs [&_td]:min-w-0 [&_td,&_th]:px-1.5' : 'text-sm'}`}
          aria-label="Memory and work"
        >
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
              <th className="px-3 text-xs font-semibold" rowSpan={2} title={native.says}>
                {native.title}, {native.unit}
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
                <td className="px-3 text-right">
                  {columnNumber(native, rowValue(native, row)?.median ?? null)}
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
        spread of the measured cost. Work and times are those of the decoders that Bijou uses; with
        native decoders the codecs are in another order, that of the last column.
      </p>
    </section>
  );
}

function Bar({ share, low, high }: { share: number; low?: number; high?: number }) {
  const at = (value: number) => `${Math.max(0, Math.min(100, 100 * value))}%`;
  return (
    <span aria-hidden className="bg-base-200 relative block h-2 [print-color-adjust:exact]">
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
