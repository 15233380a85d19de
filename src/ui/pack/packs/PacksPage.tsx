'use client';

import { useRouter } from 'next/navigation';
import { storedBrief } from '@/core/brief/catalogue';
import type { PackSummary } from '@/wire';
import { shortWhen } from '../../shared/format';
import { useProject } from '../../shared/project';
import { usePacks } from '../layout/asking';
import { PackHead } from '../PackHead';
import { Pack } from './Pack';
import { Several } from './Several';
import { stateText } from './stateText';

/** Packs as they were made: what is in them, what differs between two, and having them again. */
export function PacksPage({ packId }: { packId: number | null }) {
  const { project } = useProject();
  const router = useRouter();
  const packs = usePacks();
  const shown = packs?.find(({ id }) => id === packId) ?? packs?.[0];
  return (
    <div className="px-6 py-4">
      <PackHead view="packs" />
      <div className="grid items-start gap-5 lg:grid-cols-[17rem_minmax(0,1fr)]">
        <div className="space-y-4">
          <Several />
          {packs && packs.length > 0 && (
            <nav
              aria-label="Packs"
              className="border-base-300 bg-base-100 max-h-[60vh] overflow-y-auto border"
            >
              <ul>
                {packs.map((pack) => (
                  <li key={pack.id}>
                    <button
                      className="hover:bg-base-200 aria-[current]:bg-base-200 border-base-300 w-full border-b px-3 py-2 text-left last:border-0"
                      aria-current={pack.id === shown?.id ? 'true' : undefined}
                      onClick={() => router.push(`/p/${project.id}/pack/packs/${pack.id}`)}
                    >
                      <Entry pack={pack} />
                    </button>
                  </li>
                ))}
              </ul>
            </nav>
          )}
        </div>
        {packs?.length === 0 && (
          <p className="text-soft py-10 text-center">
            No pack has been made yet. Make one in Layout, or of several destinations beside.
          </p>
        )}
        {packs && shown && <Pack key={shown.id} pack={shown} packs={packs} />}
      </div>
    </div>
  );
}

function Entry({ pack }: { pack: PackSummary }) {
  const { briefs } = useProject();
  const titles = pack.briefs.map((id) => storedBrief(briefs, id).title);
  return (
    <>
      <span className="flex items-baseline justify-between font-semibold">
        Pack {pack.id}
        <span className="text-soft text-xs font-normal">{shortWhen(pack.createdAt)}</span>
      </span>
      <span className="text-soft block truncate text-xs">{titles.join(', ')}</span>
      <span className="text-soft block text-xs">{stateText(pack)}</span>
    </>
  );
}
