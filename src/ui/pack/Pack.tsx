'use client';

import { Hammer } from 'lucide-react';
import Link from 'next/link';
import { call } from '../shared/api';
import { plural } from '../shared/format';
import { pressButton, useKeys } from '../shared/keys';
import { useProject } from '../shared/project';
import { useAction } from '../shared/useAction';
import { Destinations } from './Destinations';
import { ZipLink } from './ZipLink';

/** The fourth station: what destinations take, what has to be done for it, and what has come of it. */
export function Pack() {
  const { project, sounds, cells } = useProject();
  const { run, busy } = useAction();
  const open = cells.filter(({ state }) => state !== 'decide' && state !== 'cannot');
  const toBuild = open.reduce((sum, { missing }) => sum + missing, 0);
  const waiting = cells.length - open.length;
  useKeys({
    b: () => pressButton('Build everything'),
    d: () => document.querySelector<HTMLElement>('main a[aria-label="Everything as zip"]')?.click(),
    h: hearNext,
  });
  return (
    <div className="px-6 py-5">
      <div className="mb-4 flex flex-wrap items-baseline gap-x-4">
        <h1 className="font-serif text-3xl">Pack</h1>
        <p className="text-soft">
          {cells.length === 0
            ? 'Choose where each sound goes; what has to be converted is said before anything is built.'
            : `${plural(toBuild, 'file')} to build` +
              (waiting > 0 ? `, ${plural(waiting, 'sound')} waiting for a decision` : '')}
        </p>
        <div className="ml-auto flex gap-2 self-center">
          <ZipLink
            href={`/api/projects/${project.id}/pack`}
            label="Everything as zip"
            isReady={cells.some(({ finished }) => finished > 0)}
          />
          <button
            className="btn btn-primary btn-sm"
            disabled={busy || toBuild === 0}
            aria-label="Build everything"
            title="Build everything that can be built (B)"
            onClick={() => run(() => call(`projects/${project.id}/builds`, 'POST', {}))}
          >
            <Hammer size={15} /> Build everything
          </button>
        </div>
      </div>
      {sounds.some((sound) => sound.facts !== null) ? (
        <Destinations />
      ) : (
        <p className="text-soft py-10 text-center">
          There is no sound to pack yet.{' '}
          <Link className="link link-primary" href={`/p/${project.id}/collect`}>
            Bring one in
          </Link>
        </p>
      )}
    </div>
  );
}

let heard: string | null = null;

/** Plays the finished file behind the one that was played last, or the first. */
function hearNext(): void {
  const buttons = [...document.querySelectorAll<HTMLElement>('main button[aria-label^="Play "]')];
  const at = buttons.findIndex(({ ariaLabel }) => ariaLabel === heard);
  const next = buttons[(at + 1) % buttons.length];
  heard = next?.ariaLabel ?? null;
  next?.click();
}
