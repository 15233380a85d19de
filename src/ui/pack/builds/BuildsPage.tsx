'use client';

import { Download } from 'lucide-react';
import { useQuery } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { BuildDetails, BuildSummary } from '@/wire';
import { call } from '../../shared/api';
import { count, plural, shortWhen, size } from '../../shared/format';
import { useProject } from '../../shared/project';
import { PackHead } from '../PackHead';
import { Changes } from './Changes';
import { Files } from './Files';
import { Totals } from './Totals';

/** Earlier builds and what came of them: before and after, what changed between two, and having one again. */
export function BuildsPage({ buildId }: { buildId: number | null }) {
  const { project, revision } = useProject();
  const router = useRouter();
  const [besideId, setBesideId] = useState<number | null>(null);
  const { data: builds } = useQuery({
    queryKey: ['builds', project.id, revision],
    queryFn: () => call<BuildSummary[]>(`projects/${project.id}/builds`),
    placeholderData: (before) => before,
  });
  const shownId = buildId ?? builds?.[0]?.id ?? null;
  const build = useBuild(shownId);
  const beside = useBuild(besideId);
  return (
    <div className="px-6 py-4">
      <PackHead view="builds" />
      {builds?.length === 0 && (
        <p className="text-soft py-10 text-center">Nothing has been built yet.</p>
      )}
      {builds && builds.length > 0 && (
        <div className="grid items-start gap-5 lg:grid-cols-[17rem_minmax(0,1fr)]">
          <nav
            aria-label="Builds"
            className="border-base-300 bg-base-100 max-h-[70vh] overflow-y-auto border"
          >
            <ul>
              {builds.map((one) => (
                <li key={one.id}>
                  <button
                    className="hover:bg-base-200 aria-[current]:bg-base-200 border-base-300 w-full border-b px-3 py-2 text-left last:border-0"
                    aria-current={one.id === shownId ? 'true' : undefined}
                    onClick={() => router.push(`/p/${project.id}/pack/builds/${one.id}`)}
                  >
                    <span className="flex items-baseline justify-between font-semibold">
                      Build {one.id}
                      <span className="text-soft text-xs font-normal">
                        {shortWhen(one.createdAt)}
                      </span>
                    </span>
                    <span className="text-soft block text-xs">
                      {plural(one.files, 'file')}, {size(one.bytes)}
                      {one.failed > 0 && `, ${count(one.failed)} failed`}
                      {one.open > 0 && `, ${count(one.open)} being built`}
                    </span>
                  </button>
                </li>
              ))}
            </ul>
          </nav>
          {build && (
            <article aria-label={`Build ${build.id}`} className="min-w-0">
              <div className="mb-3 flex flex-wrap items-baseline gap-3">
                <h2 className="font-serif text-2xl">Build {build.id}</h2>
                <span className="text-soft">
                  {new Date(build.createdAt).toLocaleString('en-GB')}
                </span>
                <label className="text-soft ml-auto flex items-center gap-2 text-xs">
                  Compare with
                  <select
                    className="select select-xs w-36"
                    value={besideId ?? ''}
                    onChange={(event) =>
                      setBesideId(event.target.value === '' ? null : Number(event.target.value))
                    }
                  >
                    <option value="">nothing</option>
                    {builds
                      .filter(({ id }) => id !== build.id)
                      .map(({ id, createdAt }) => (
                        <option key={id} value={id}>
                          build {id}, {shortWhen(createdAt)}
                        </option>
                      ))}
                  </select>
                </label>
                {build.done > 0 && (
                  <a
                    className="btn btn-paper btn-sm"
                    href={`/api/projects/${project.id}/builds/${build.id}/zip`}
                    title="All files of this build, as they were"
                    download
                  >
                    <Download size={15} /> Have it again
                  </a>
                )}
              </div>
              {beside ? (
                <Changes build={build} beside={beside} />
              ) : (
                <>
                  <Totals build={build} />
                  <Files build={build} />
                </>
              )}
            </article>
          )}
        </div>
      )}
    </div>
  );
}

function useBuild(id: number | null): BuildDetails | null {
  const { project, revision } = useProject();
  const { data } = useQuery({
    queryKey: ['build', project.id, id, revision],
    queryFn: () => call<BuildDetails>(`projects/${project.id}/builds/${id}`),
    enabled: id !== null,
    placeholderData: (before, query) => (query?.queryKey[2] === id ? before : undefined),
    retry: false,
  });
  return id === null ? null : (data ?? null);
}
