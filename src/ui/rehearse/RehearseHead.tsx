'use client';

import Link from 'next/link';
import { hosts } from '@/core/host';
import { useProject } from '../shared/project';

/** What all of Rehearse has in common: the hosts that there are. */
export function RehearseHead({ view, about }: { view: string; about: string }) {
  const { project } = useProject();
  const views = [{ id: '', title: 'All hosts' }, ...hosts];
  return (
    <div className="mb-3 flex flex-wrap items-baseline gap-x-4 gap-y-2">
      <h1 className="font-serif text-3xl">Rehearse</h1>
      <nav aria-label="Hosts" className="border-base-300 flex self-center border-b">
        {views.map(({ id, title }) => (
          <Link
            key={id}
            href={`/p/${project.id}/rehearse${id === '' ? '' : `/${id}`}`}
            prefetch={false}
            aria-current={id === view ? 'page' : undefined}
            className="text-soft hover:text-base-content aria-[current]:text-base-content aria-[current]:border-primary -mb-px border-b-2 border-transparent px-2.5 py-0.5 aria-[current]:font-semibold"
          >
            {title}
          </Link>
        ))}
      </nav>
      <p className="text-soft min-w-0 flex-1 basis-40 truncate">{about}</p>
    </div>
  );
}
