'use client';

import { CircleAlert, Info } from 'lucide-react';
import Link from 'next/link';
import type { PackTrouble } from '@/core/pack/troubles';
import type { PackOutline } from '@/wire';
import { plural } from '../../shared/format';
import { useProject } from '../../shared/project';

/** So many are shown at once; the rest is counted. */
const MOST_SHOWN = 30;

/** Everything that keeps a pack from being right, and what is good to know of it. */
export function Troubles({ outline: { troubles } }: { outline: Pick<PackOutline, 'troubles'> }) {
  const wrong = troubles.filter(({ weight }) => weight === 'wrong');
  const notes = troubles.filter(({ weight }) => weight === 'note');
  if (wrong.length + notes.length === 0) return null;
  return (
    <section aria-label="What is to settle" className="mt-3 space-y-2">
      {wrong.length > 0 && (
        <div className="border-warning bg-base-100 border px-4 py-2.5">
          <p className="text-warning flex items-center gap-2 font-semibold">
            <CircleAlert size={15} aria-hidden />
            {wrong.length === 1
              ? 'One thing keeps this pack from being right.'
              : `${wrong.length} things keep this pack from being right.`}
          </p>
          <List troubles={wrong} />
        </div>
      )}
      {notes.length > 0 && (
        <details className="text-soft px-1">
          <summary className="cursor-pointer">
            <Info size={14} aria-hidden className="mr-1 inline" />
            {plural(notes.length, 'note')}
          </summary>
          <List troubles={notes} />
        </details>
      )}
    </section>
  );
}

function List({ troubles }: { troubles: readonly PackTrouble[] }) {
  const more = troubles.length - MOST_SHOWN;
  return (
    <ul className="mt-1 max-h-56 overflow-y-auto" tabIndex={0} aria-label="Reasons">
      {troubles.slice(0, MOST_SHOWN).map((trouble, i) => (
        <li key={i} className="py-0.5">
          {trouble.message} <span className="text-soft">{trouble.hint}</span>{' '}
          <To trouble={trouble} />
        </li>
      ))}
      {more > 0 && <li className="text-soft py-0.5">and {more} more</li>}
    </ul>
  );
}

/** The way to what is meant. */
function To({ trouble: { about, briefId, soundId } }: { trouble: PackTrouble }) {
  const { project } = useProject();
  const link = (href: string, text: string) => (
    <Link className="link link-primary" href={`/p/${project.id}/${href}`} prefetch={false}>
      {text}
    </Link>
  );
  if (about === 'call') return link(`pack/layout/${briefId}/calls`, 'To the calls');
  if (about === 'sound' || (about === 'name' && soundId !== undefined)) {
    return link(soundId === undefined ? 'pack' : `pack?cell=${soundId}.${briefId}`, 'To its cell');
  }
  if (about === 'text') return link(`pack/briefs/${briefId}`, 'To the brief');
  return null;
}
