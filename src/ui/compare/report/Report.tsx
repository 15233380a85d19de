'use client';

import { Printer } from 'lucide-react';
import Link from 'next/link';
import { columnNumber, trialColumn } from '@/core/compare/columns';
import type { TrialColumn } from '@/core/compare/measured';
import { wordsOfGrade } from '@/core/compare/grade';
import { rowValue, type CandidateRow } from '@/core/compare/rows';
import type { Comparison, Trial } from '@/wire';
import { count, plural } from '../../shared/format';
import { useProject } from '../../shared/project';
import { markOf } from '../codecs';
import type { SizeLimit } from '../limits';
import { LoadTable } from '../load/LoadTable';
import { useLook } from '../look';
import { HowGraded } from '../results/HowToRead';
import { Scatter } from '../results/Scatter';

/** A run on paper: what was tried on what and where, the picture, the figures, and how they are to be read. */
export function Report({
  run,
  rows,
  limits,
  soundIds,
}: {
  run: Comparison;
  rows: readonly CandidateRow<Trial>[];
  limits: readonly SizeLimit[];
  /** What the figures stand for: the middle of these. */
  soundIds: readonly number[];
}) {
  const { project, sounds } = useProject();
  const { columns, load } = useLook();
  const nameOf = (id: number) =>
    sounds.find((sound) => sound.id === id)?.name ?? 'one that is gone';
  const { machine } = run;
  return (
    // As wide as what a sheet of A4 holds: the picture is drawn in pixels and does not follow the paper.
    <div className="mx-auto w-full max-w-[48rem] space-y-3 print:max-w-[44rem]">
      <div className="flex gap-2 print:hidden">
        <button className="btn btn-primary btn-sm" onClick={() => window.print()}>
          <Printer size={14} /> Print
        </button>
        <Link
          className="btn btn-paper btn-sm"
          href={`/p/${project.id}/compare/${run.id}`}
          prefetch={false}
        >
          All trials
        </Link>
      </div>
      {/* Paper is light in the dark, too. */}
      <article
        data-theme="daylight"
        className="bg-base-100 text-base-content border-base-300 space-y-6 border p-8 print:border-0 print:p-0"
      >
        <header className="space-y-1">
          <h2 className="font-serif text-2xl">
            {project.name}: {plural(rows.length, 'candidate')} compared
          </h2>
          <p>
            On {soundIds.map(nameOf).join(', ')}
            {soundIds.length > 1 && ' (the middle of all, with the lowest and the highest)'}.
          </p>
          <p className="text-soft text-sm">
            {new Date(run.createdAt).toLocaleString('en-GB')}, {machine.processor}, {machine.system}
            , Node.js {machine.node}, Bijou {machine.bijou}.
          </p>
        </header>
        <section aria-label="Size against audible error" className="h-80 break-inside-avoid">
          <Scatter rows={rows} limits={limits} />
        </section>
        <Figures rows={rows} columns={columns.map(trialColumn)} />
        <section className="break-inside-avoid space-y-2">
          <h3 className="font-serif text-xl">Memory and work for {plural(load.voices, 'voice')}</h3>
          <p className="text-soft text-sm">
            Mixed at {count(load.mixRateHz)} Hz in blocks of {plural(load.blockFrames, 'frame')},
            read {count(load.readBytes)} bytes at a time from {load.storageMbits} Mbit/s
            {load.slower > 1 && `, on a device ${load.slower} × slower than this machine`}.
          </p>
          <LoadTable rows={rows} settings={load} isNarrow />
        </section>
        <section className="break-inside-avoid space-y-2 text-sm">
          <h3 className="font-serif text-xl">How to read this</h3>
          <HowGraded />
        </section>
      </article>
    </div>
  );
}

/** The chosen columns of all candidates, and what these columns mean. */
function Figures({
  rows,
  columns,
}: {
  rows: readonly CandidateRow<Trial>[];
  columns: readonly TrialColumn[];
}) {
  return (
    <section className="space-y-2">
      <h3 className="font-serif text-xl">Figures</h3>
      <div
        role="region"
        aria-label="All figures"
        tabIndex={0}
        className="overflow-x-auto print:overflow-visible"
      >
        <table className="w-full text-xs" aria-label="Figures">
          <thead className="text-soft border-base-content border-b text-left align-bottom">
            <tr>
              <th className="py-1 pr-2 font-semibold">Candidate</th>
              {columns.map(({ id, title, unit }) => (
                <th key={id} className="px-1.5 py-1 text-right font-semibold">
                  {title}
                  {unit && <span className="font-normal">, {unit}</span>}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.key} className="border-base-300 break-inside-avoid border-b align-top">
                <th className="py-1 pr-2 text-left font-normal">
                  <span style={{ color: `var(${markOf(row.candidate).colour})` }}>
                    {markOf(row.candidate).sign}
                  </span>{' '}
                  <span className={row.isUnbeaten ? 'font-semibold' : ''}>{row.name}</span>
                </th>
                {row.measured.length === 0 ? (
                  <td colSpan={columns.length} className="py-1">
                    {row.trials.find(({ error }) => error)?.error?.message ?? 'not measured'}
                  </td>
                ) : (
                  columns.map((column) => <Figure key={column.id} column={column} row={row} />)
                )}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="text-soft text-xs">
        In bold: no other candidate is as small and as good.{' '}
        {columns.map(({ title, says }) => `${title}: ${says}`).join(' ')}
      </p>
    </section>
  );
}

function Figure({ column, row }: { column: TrialColumn; row: CandidateRow<Trial> }) {
  const value = rowValue(column, row);
  const text = (of: number | null | undefined) => columnNumber(column, of ?? null);
  const range = rangeOf(column, row);
  return (
    <td className="px-1.5 py-1 text-right whitespace-nowrap">
      {text(value?.median)}
      {range && text(range.low) !== text(range.high) && (
        <span className="text-soft block">
          {text(range.low)} … {text(range.high)}
        </span>
      )}
      {column.id === 'grade' && value && (
        <span className="text-soft block whitespace-normal">{wordsOfGrade(value.median)}</span>
      )}
    </td>
  );
}

/** Of several sounds the lowest and the highest; of one the spread of its runs, where it has one. */
function rangeOf(column: TrialColumn, row: CandidateRow<Trial>) {
  if (row.measured.length === 1 && column.id === 'decodeMsPerSecond') {
    return row.measured[0]!.work?.msPerSecond ?? null;
  }
  return row.measured.length > 1 ? rowValue(column, row) : null;
}
