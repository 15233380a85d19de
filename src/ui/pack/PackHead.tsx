'use client';

import { Hammer } from 'lucide-react';
import Link from 'next/link';
import type { CellState } from '@/wire';
import { count, plural } from '../shared/format';
import { pressButton, useKeys } from '../shared/keys';
import { useProject } from '../shared/project';
import { useBuild } from './making';
import { ZipLink } from './ZipLink';

/** The ways to look at what goes where, by their addresses. */
const views = {
  matrix: { path: '', name: 'Matrix' },
  lists: { path: '/destinations', name: 'By destination' },
  layout: { path: '/layout', name: 'Layout' },
  packs: { path: '/packs', name: 'Packs' },
  briefs: { path: '/briefs', name: 'Briefs' },
  doctor: { path: '/doctor', name: 'Doctor' },
  builds: { path: '/builds', name: 'Builds' },
} as const;

/** What all views of Pack have in common: how much is to be built, and the button that does. */
export function PackHead({ view }: { view: keyof typeof views }) {
  const { project, cells, rest } = useProject();
  const { buildAll, busy } = useBuild();
  const open = cells.filter(({ state }) => state !== 'decide' && state !== 'cannot');
  const toBuild = open.reduce((sum, { missing }) => sum + missing, 0);
  const inState = (state: CellState) => cells.filter((cell) => cell.state === state).length;
  const [undecided, impossible] = [inState('decide'), inState('cannot')];
  useKeys({
    b: () => pressButton('Build everything'),
    d: () => document.querySelector<HTMLElement>('main a[aria-label="Everything as zip"]')?.click(),
  });
  return (
    <div className="mb-3 flex flex-wrap items-baseline gap-x-4 gap-y-2">
      <h1 className="font-serif text-3xl">Pack</h1>
      <nav aria-label="Views of Pack" className="border-base-300 flex self-center border-b">
        {Object.entries(views).map(([name, { path, name: title }]) => (
          <Link
            key={name}
            href={`/p/${project.id}/pack${path}`}
            prefetch={false}
            aria-current={name === view ? 'page' : undefined}
            className="text-soft hover:text-base-content aria-[current]:text-base-content aria-[current]:border-primary -mb-px border-b-2 border-transparent px-2.5 py-0.5 aria-[current]:font-semibold"
          >
            {title}
          </Link>
        ))}
      </nav>
      <p className="text-soft min-w-0 flex-1 basis-40 truncate">
        {cells.length === 0
          ? 'Choose where each sound goes; what has to be converted is said before anything is built.'
          : [
              `${plural(toBuild, 'file')} to build${rest ? ' so far' : ''}`,
              undecided > 0 ? `${count(undecided)} waiting for a decision` : '',
              impossible > 0 ? `${count(impossible)} that cannot be met` : '',
            ]
              .filter(Boolean)
              .join(', ')}
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
          onClick={() => void buildAll()}
        >
          <Hammer size={15} /> Build everything
        </button>
      </div>
    </div>
  );
}
