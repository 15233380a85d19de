'use client';

import Link from 'next/link';
import { useProject } from '../shared/project';
import { ListsPage } from './lists/ListsPage';
import { MatrixPage } from './matrix/MatrixPage';
import { PackHead } from './PackHead';

const pages = { matrix: MatrixPage, lists: ListsPage };

/** The fourth station: what destinations take, what has to be done for it, and what has come of it. */
export function Pack({ view }: { view: keyof typeof pages }) {
  const { project, sounds } = useProject();
  if (sounds.some(({ facts }) => facts !== null)) {
    const Page = pages[view];
    return <Page />;
  }
  return (
    <div className="px-6 py-4">
      <PackHead view={view} />
      <p className="text-soft py-10 text-center">
        There is no sound to pack yet.{' '}
        <Link className="link link-primary" href={`/p/${project.id}/collect`}>
          Bring one in
        </Link>
      </p>
    </div>
  );
}
