'use client';

import { useQuery } from '@tanstack/react-query';
import { Download, Theater, Trash2 } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
import { storedBrief } from '@/core/brief/catalogue';
import { hostById, hosts } from '@/core/host';
import type { PackChanges } from '@/core/pack/changes';
import type { PackDetails, PackSummary } from '@/wire';
import { call } from '../../shared/api';
import { plural, shortWhen } from '../../shared/format';
import { useProject } from '../../shared/project';
import { useAction } from '../../shared/useAction';
import { hostAddress, partsFor } from '../../rehearse/packs';
import { usePackVersion } from '../layout/asking';
import { Tree } from '../layout/Tree';
import { Difference } from './Difference';
import { stateText } from './stateText';

/** One pack as it was made, and what is other in it than in another one. */
export function Pack({ pack, packs }: { pack: PackSummary; packs: readonly PackSummary[] }) {
  const { project, briefs } = useProject();
  const { run, busy } = useAction();
  const router = useRouter();
  const version = usePackVersion();
  const others = packs.filter(({ id, state }) => id !== pack.id && state === 'done');
  const [sinceId, setSince] = useState<number | null>(null);
  const { data: details } = useQuery({
    queryKey: ['pack', project.id, pack.id, pack.state, sinceId, version],
    queryFn: () =>
      call<PackDetails>(`packs/${pack.id}${sinceId === null ? '' : `?since=${sinceId}`}`),
    placeholderData: (before, query) => (query?.queryKey[2] === pack.id ? before : undefined),
    retry: false,
  });
  const parts = hosts.flatMap(({ id }) => partsFor(id, [pack], briefs));
  const remove = () =>
    run(async () => {
      await call(`packs/${pack.id}`, 'DELETE');
      router.push(`/p/${project.id}/pack/packs`);
      toast(`Pack ${pack.id} is gone.`, {
        duration: 8_000,
        action: {
          label: 'Undo',
          onClick: () => void run(() => call(`packs/${pack.id}/back`, 'POST')),
        },
      });
    });
  return (
    <article aria-label={`Pack ${pack.id}`} className="min-w-0 space-y-4">
      <header className="flex flex-wrap items-start gap-x-4 gap-y-2">
        <div className="min-w-0 flex-1 basis-72">
          <h2 className="font-serif text-2xl">
            Pack {pack.id}: {pack.title}
          </h2>
          <p className="text-soft">
            {pack.briefs.map((id) => storedBrief(briefs, id).title).join(', ')}; {stateText(pack)};{' '}
            {new Date(pack.createdAt).toLocaleString('en-GB')}
          </p>
        </div>
        <div className="flex flex-wrap items-center gap-2">
          {parts.map((part) => (
            <Link
              key={part.brief.id}
              className="btn btn-paper btn-sm"
              href={hostAddress(project.id, part.brief.host!, part)}
              prefetch={false}
            >
              <Theater size={15} /> To the {hostById(part.brief.host!).title.toLowerCase()}
            </Link>
          ))}
          {pack.state === 'done' && (
            <a className="btn btn-primary btn-sm" href={`/api/packs/${pack.id}/zip`} download>
              <Download size={15} /> Download it
            </a>
          )}
          <button
            className="btn btn-ghost btn-sm"
            disabled={busy}
            title="Forget this pack; after a day, files that nothing else needs go with it"
            onClick={() => void remove()}
          >
            <Trash2 size={14} /> Let it go
          </button>
        </div>
      </header>
      {pack.error && (
        <p role="alert" className="border-error bg-base-100 text-error border px-4 py-2.5">
          {pack.error.message} {pack.error.hint}
        </p>
      )}
      {details?.now && <Age changes={details.now} />}
      {pack.state === 'done' && others.length > 0 && (
        <section
          aria-label="Against another pack"
          className="border-base-300 bg-base-100 border px-4 py-2.5"
        >
          <div className="flex flex-wrap items-center gap-3">
            <label className="flex items-center gap-2">
              What is other than in
              <select
                className="select select-sm w-48"
                value={sinceId ?? ''}
                onChange={({ target: { value } }) => setSince(value === '' ? null : Number(value))}
              >
                <option value="">…</option>
                {others.map(({ id, createdAt }) => (
                  <option key={id} value={id}>
                    pack {id}, {shortWhen(createdAt)}
                  </option>
                ))}
              </select>
            </label>
            {sinceId !== null && (
              <a
                className="btn btn-paper btn-sm"
                href={`/api/packs/${pack.id}/zip?since=${sinceId}`}
                title="Only what is new or other, with a list of it and of what has to go"
                download
              >
                <Download size={15} /> Only that, as a patch
              </a>
            )}
          </div>
          {details?.since && <Difference changes={details.since.changes} />}
        </section>
      )}
      {details && details.list.length > 0 && <Tree files={details.list} packId={pack.id} />}
    </article>
  );
}

/** Whether a pack made now would be other. */
function Age({ changes }: { changes: PackChanges }) {
  const { added, changed, moved, removed } = changes;
  const other = added.length + changed.length + moved.length + removed.length;
  if (other === 0) {
    return <p className="text-success">It is as it would be made now, to the bit.</p>;
  }
  return (
    <details className="border-warning bg-base-100 border px-4 py-2">
      <summary className="text-warning cursor-pointer font-semibold">
        It is older than the project: {plural(other, 'file')} would be other now.
      </summary>
      <Difference changes={changes} />
    </details>
  );
}
