'use client';

import { CircleAlert, CircleCheck, CircleX } from 'lucide-react';
import { useState } from 'react';
import type { Check, Verdict } from '@/core/host/checks';
import type { HostKind } from '@/core/host/kind';
import { groupBy } from '@/core/group';
import { plural } from '../shared/format';
import { MiddleCut } from '../shared/MiddleCut';
import { Cures } from './Cures';
import type { PackPart } from './packs';

const signs = {
  refused: { Icon: CircleX, className: 'text-error', word: 'refused' },
  warning: { Icon: CircleAlert, className: 'text-warning', word: 'look at it' },
  met: { Icon: CircleCheck, className: 'text-success', word: 'met' },
} as const satisfies Record<Verdict, unknown>;

const rank: Record<Verdict, number> = { refused: 0, warning: 1, met: 2 };
/** Files that are listed at once; the rest is counted. */
const MOST_FILES = 100;

/** What a host looked at, file by file: what it asked, what it found, and what cures it. */
export function Checked({
  host,
  checks,
  part,
}: {
  host: HostKind;
  checks: readonly Check[];
  part: PackPart | null;
}) {
  const [isAll, setAll] = useState(false);
  const byFile = [...groupBy(checks, ({ file }) => file)]
    .map(([file, own]) => ({ file, own, worst: worstOf(own) }))
    .sort((a, b) => rank[a.worst] - rank[b.worst]);
  const open = byFile.filter(({ worst }) => worst !== 'met');
  const shown = isAll ? byFile : open;
  const met = byFile.length - open.length;
  return (
    <section aria-label="What it checked" className="border-base-300 bg-base-100 border">
      <header className="border-base-300 flex flex-wrap items-baseline gap-3 border-b px-4 py-1.5">
        <h2 className="font-serif text-lg">What it checked</h2>
        <span className="text-soft text-xs">
          {plural(checks.length, 'rule')} at {plural(byFile.length, 'file')}
        </span>
        <label className="ml-auto flex cursor-pointer items-center gap-1.5 text-xs">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={isAll}
            onChange={({ target }) => setAll(target.checked)}
          />
          also what is met ({plural(met, 'file')})
        </label>
      </header>
      {shown.length === 0 && (
        <p className="text-success flex items-center gap-2 px-4 py-3">
          <CircleCheck size={15} aria-hidden /> Every file is as the host wants it.
        </p>
      )}
      <ul className="max-h-[26rem] overflow-y-auto" tabIndex={0} aria-label="Files">
        {shown.slice(0, MOST_FILES).map(({ file, own }) => (
          <li key={file} className="border-base-300 border-b px-4 py-2 last:border-0">
            <p className="font-semibold">
              <MiddleCut text={file} />
            </p>
            <ul className="mt-0.5">
              {own
                .filter(({ verdict }) => isAll || verdict !== 'met')
                .map((check, i) => (
                  <Rule key={i} host={host} check={check} part={part} />
                ))}
            </ul>
          </li>
        ))}
      </ul>
      {shown.length > MOST_FILES && (
        <p className="text-soft px-4 py-2 text-xs">and {shown.length - MOST_FILES} more files</p>
      )}
    </section>
  );
}

function Rule({ host, check, part }: { host: HostKind; check: Check; part: PackPart | null }) {
  const { Icon, className, word } = signs[check.verdict];
  return (
    <li className="py-0.5">
      <span className="flex items-baseline gap-2">
        <Icon size={13} aria-hidden className={`relative top-0.5 shrink-0 ${className}`} />
        <span className="min-w-0 break-words">
          <span className="sr-only">{word}: </span>
          <span className="text-soft">{host.rules[check.rule] ?? check.rule}:</span>{' '}
          <span className={check.verdict === 'met' ? '' : `${className} font-semibold`}>
            {check.found}
          </span>
          {check.found !== check.asked && (
            <span className="text-soft"> · asked: {check.asked}</span>
          )}
          {check.cure && <span> {check.cure}</span>}
        </span>
      </span>
      {check.verdict !== 'met' && part && <Cures host={host} check={check} part={part} />}
    </li>
  );
}

function worstOf(checks: readonly Check[]): Verdict {
  return [...checks].sort((a, b) => rank[a.verdict] - rank[b.verdict])[0]!.verdict;
}
