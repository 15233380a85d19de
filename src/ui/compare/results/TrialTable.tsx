'use client';

import { ChevronDown, ChevronUp, Ear, LoaderCircle } from 'lucide-react';
import Link from 'next/link';
import { columnNumber, trialColumn, trialColumns } from '@/core/compare/columns';
import type { TrialColumn } from '@/core/compare/measured';
import { wordsOfGrade } from '@/core/compare/grade';
import { rowValue, type CandidateRow } from '@/core/compare/rows';
import { isUnsteady } from '@/core/compare/spread';
import { quantile } from '@/core/measure/statistics';
import type { Trial } from '@/wire';
import { plural, size } from '../../shared/format';
import { Popover } from '../../shared/Popover';
import { useProject } from '../../shared/project';
import { markOf } from '../codecs';
import { point, sortBy, toggleColumn, useLook } from '../look';
import { Tick } from '../choose/Sounds';
import { UseIt } from './UseIt';

type Row = CandidateRow<Trial>;

/** Every candidate with its figures: sorts by any of them, and says what each means. */
export function TrialTable({ rows, runId }: { rows: readonly Row[]; runId: number }) {
  const { columns: ids, sort, pointed } = useLook();
  const columns = ids.map(trialColumn);
  const isMany = rows.some(({ trials }) => trials.length > 1);
  return (
    <div className="border-base-300 bg-base-100 min-h-0 flex-1 overflow-auto border print:overflow-visible">
      <table className="w-full text-sm" aria-label="Trials">
        <thead className="bg-base-200 sticky top-0 z-10">
          <tr className="border-base-300 text-soft border-b text-left text-xs">
            <th className="px-3 py-1.5 font-semibold">Candidate</th>
            {columns.map((column) => (
              <Heading key={column.id} column={column} isMany={isMany} />
            ))}
            <th className="w-8 px-1 text-right">
              <Columns />
            </th>
          </tr>
        </thead>
        <tbody>
          {sorted(rows, sort).map((row) => (
            <tr
              key={row.key}
              className={`border-base-300 border-b last:border-0 ${row.key === pointed ? 'bg-base-200' : ''}`}
              onMouseEnter={() => point(row.key)}
              onMouseLeave={() => point(null)}
            >
              <th className="px-3 py-1 text-left font-normal">
                <Name row={row} />
              </th>
              {row.measured.length === 0 ? (
                <td colSpan={columns.length + 1} className="px-2">
                  <Waiting row={row} />
                </td>
              ) : (
                <>
                  {columns.map((column) => (
                    <Figure key={column.id} column={column} row={row} isMany={isMany} />
                  ))}
                  <td className="px-1 text-right">
                    <span className="flex justify-end">
                      <UseIt row={row} />
                      <Closer row={row} runId={runId} />
                    </span>
                  </td>
                </>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function sorted(rows: readonly Row[], sort: ReturnType<typeof useLook.getState>['sort']): Row[] {
  if (!sort) return [...rows];
  const column = trialColumn(sort.column);
  const value = (row: Row) => rowValue(column, row)?.median;
  return [...rows].sort((a, b) => {
    const [x, y] = [value(a), value(b)];
    // What has no figure stands below all others.
    if (x === undefined || y === undefined)
      return Number(x === undefined) - Number(y === undefined);
    return sort.isFalling ? y - x : x - y;
  });
}

function Heading({ column, isMany }: { column: TrialColumn; isMany: boolean }) {
  const { id, title, unit, says, better } = column;
  const sort = useLook((state) => state.sort);
  const isOn = sort?.column === id;
  return (
    <th
      className="px-2 text-right font-semibold whitespace-nowrap"
      aria-sort={isOn ? (sort.isFalling ? 'descending' : 'ascending') : undefined}
    >
      <button
        className="hover:text-base-content inline-flex items-center gap-0.5"
        title={`${says}${isMany ? ' The middle of all sounds, with the lowest and the highest.' : ''}`}
        onClick={() => sortBy(id, better === 'high')}
      >
        {title}
        {unit && <span className="font-normal">, {unit}</span>}
        {isOn && (sort.isFalling ? <ChevronDown size={12} /> : <ChevronUp size={12} />)}
      </button>
    </th>
  );
}

function Name({ row: { candidate, name, isUnbeaten, trials } }: { row: Row }) {
  const { briefs } = useProject();
  const used = [...new Set(trials.flatMap(({ usedIn }) => usedIn))];
  const titles = used.map((id) => briefs.find((brief) => brief.id === id)?.title ?? id).join(', ');
  const { sign, colour } = markOf(candidate);
  const isStale = trials.some((trial) => trial.isStale);
  const failed = trials.filter(({ state }) => state === 'failed').length;
  return (
    <span className="flex items-baseline gap-2">
      <span aria-hidden className="w-4 text-center" style={{ color: `var(${colour})` }}>
        {sign}
      </span>
      <span className={`whitespace-nowrap ${isUnbeaten ? 'font-semibold' : ''}`}>{name}</span>
      {isUnbeaten && (
        <span
          className="text-primary text-xs whitespace-nowrap"
          title="No other candidate is as small and as good"
        >
          unbeaten
        </span>
      )}
      {used.length > 0 && (
        <span className="text-success text-xs whitespace-nowrap" title={`Made so for ${titles}`}>
          in use
        </span>
      )}
      {isStale && (
        <span
          className="text-warning text-xs whitespace-nowrap"
          title="The sound was replaced or shaped since: compare again"
        >
          out of date
        </span>
      )}
      {failed > 0 && trials.length > failed && (
        <span className="text-error text-xs whitespace-nowrap">
          not on {plural(failed, 'sound')}
        </span>
      )}
    </span>
  );
}

function Waiting({ row: { trials } }: { row: Row }) {
  const [first] = trials;
  const failed = trials.find(({ error }) => error !== null);
  if (failed?.error) {
    return (
      <span className="text-error">
        {failed.error.message} <span className="text-soft">{failed.error.hint}</span>
      </span>
    );
  }
  if (first?.state === 'cancelled') return <span className="text-soft">stopped</span>;
  return (
    <span className="text-soft inline-flex items-center gap-1.5">
      <LoaderCircle size={12} aria-hidden className="motion-safe:animate-spin" />
      {first?.bytes != null
        ? `${size(first.bytes)}, being measured`
        : trials.some(({ state }) => state === 'running')
          ? 'being made'
          : 'waiting'}
    </span>
  );
}

function Figure({ column, row, isMany }: { column: TrialColumn; row: Row; isMany: boolean }) {
  const value = rowValue(column, row);
  const text = columnNumber(column, value?.median ?? null);
  const from = columnNumber(column, value?.low ?? null);
  const to = columnNumber(column, value?.high ?? null);
  return (
    <td className="px-2 text-right whitespace-nowrap">
      {text}
      {isMany && value && from !== to && (
        <span className="text-soft block text-xs">
          {from} … {to}
        </span>
      )}
      {column.id === 'grade' && value && (
        <span className="text-soft block text-xs">{wordsOfGrade(value.median)}</span>
      )}
      {column.id === 'decodeMsPerSecond' && <CostSpread row={row} isMany={isMany} />}
    </td>
  );
}

/** Between which two most of the runs lie. */
function CostSpread({ row, isMany }: { row: Row; isMany: boolean }) {
  const works = row.measured.flatMap(({ work }) => work ?? []);
  const drift = driftOf(row);
  if (works.length === 0) return <span className="text-soft block text-xs">not timed yet</span>;
  const unsteady = works.some(({ msPerSecond }) => isUnsteady(msPerSecond));
  const { low, high } = works[0]!.msPerSecond;
  return (
    <span className={`block text-xs ${unsteady ? 'text-warning' : 'text-soft'}`}>
      {!isMany && `${low.toFixed(2)} … ${high.toFixed(2)}`}
      {unsteady && (
        <span title="The runs differ by more than a fifth: the machine was busy"> unsure</span>
      )}
      {drift !== null && <span title="Against the run before"> {drift}</span>}
    </span>
  );
}

/** Leads to the candidate beside its source. */
function Closer({ row: { trials, name }, runId }: { row: Row; runId: number }) {
  const { project } = useProject();
  const trial = trials.find(({ measured }) => measured !== null);
  if (!trial) return null;
  return (
    <Link
      className="btn btn-ghost btn-xs btn-square"
      href={`/p/${project.id}/compare/${runId}/pair/source/${trial.id}`}
      prefetch={false}
      aria-label={`Look at ${name} closely`}
      title="See and hear it beside its source"
    >
      <Ear size={14} />
    </Link>
  );
}

/** How much dearer it is than in the run before: "+3 %"; null where there is none. */
function driftOf({ trials }: Row): string | null {
  const shares = trials.flatMap(({ measured, before }) =>
    measured?.work && before?.work
      ? measured.work.msPerSecond.median / before.work.msPerSecond.median - 1
      : [],
  );
  if (shares.length === 0) return null;
  const percent = Math.round(100 * quantile(shares, 0.5));
  return `${percent < 0 ? '−' : '+'}${Math.abs(percent)} %`;
}

/** Which columns are shown. */
function Columns() {
  const columns = useLook((state) => state.columns);
  const order = trialColumns.map(({ id }) => id);
  return (
    <Popover label="Choose columns" face="⋯" className="btn btn-ghost btn-xs btn-square">
      {() => (
        <ul className="grid max-h-96 w-[34rem] grid-cols-2 gap-x-3 overflow-y-auto">
          {trialColumns.map(({ id, title, says }) => (
            <li key={id}>
              <button
                role="checkbox"
                aria-checked={columns.includes(id)}
                className="hover:bg-base-200 flex w-full items-center gap-2 rounded px-2 py-1 text-left"
                title={says}
                onClick={() => toggleColumn(id, order)}
              >
                <Tick isOn={columns.includes(id)} />
                {title}
              </button>
            </li>
          ))}
        </ul>
      )}
    </Popover>
  );
}
