'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { errorFacts } from '@/core/errors';
import { checkAligned, shapeWithoutLoop, type LoopForMany } from '@/core/loop/forMany';
import type { Applied, Sound } from '@/wire';
import { plural } from '../../shared/format';
import { useTold } from '../../shared/history';
import { useProject } from '../../shared/project';
import { useChange } from '../../shared/useChange';
import { useChosenFor, useReadSounds } from '../chosen';
import { shapeOf } from '../workbench';
import { lookOf, useSeams } from './looks';
import { LoopTable } from './LoopTable';
import { Wish } from './Wish';

/** What is usually wanted of beds: the whole of each, with a crossfade that nobody hears. */
const usual: LoopForMany = {
  where: 'own',
  seam: 'crossfade',
  crossfadeSeconds: 0.2,
  curve: 'equal-power',
  tailSeconds: 2,
  tailDb: 0,
};

/** The loops of many sounds at once, with what becomes of each seam before anything is done. */
export function LoopSeveral({ address }: { address: string | undefined }) {
  const soundIds = useChosenFor(address);
  const { project } = useProject();
  const router = useRouter();
  const { change, busy } = useChange();
  const told = useTold();
  const [wish, setWish] = useState<LoopForMany>(usual);
  const chosen = useReadSounds(soundIds);
  const unaligned = useMemo(() => alignmentProblem(chosen), [chosen]);
  const looks = useMemo(() => chosen.map((sound) => lookOf(sound, wish)), [chosen, wish]);
  const seams = useSeams(looks);
  const able = looks.filter(({ problem }) => !problem);
  const isRefused = typeof wish.where === 'object' && unaligned !== null;
  const apply = async () => {
    const made = await change<Applied>(`projects/${project.id}/loops`, 'POST', {
      sounds: able.map(({ sound }) => sound.id),
      wish,
    });
    if (!made) return;
    told(`Loops of ${plural(made.changed, 'sound')} made.`, made.changeId);
    router.push(`/p/${project.id}/collect`);
  };
  return (
    <div className="px-6 py-5">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1 className="font-serif text-3xl">Loop several</h1>
        <p className="text-soft">{plural(chosen.length, 'sound')} chosen</p>
      </div>
      {chosen.length === 0 ? (
        <p className="text-soft mt-3">
          No sounds are chosen. Choose some in Collect, then “Loop…”.{' '}
          <Link className="link link-primary" href={`/p/${project.id}/collect`}>
            Go to Collect
          </Link>
        </p>
      ) : (
        <div className="mt-3 grid gap-x-8 gap-y-4 lg:grid-cols-[22rem_minmax(0,1fr)]">
          <div>
            <Wish wish={wish} first={chosen[0]!} unaligned={unaligned} onChange={setWish} />
            <div className="mt-4 flex items-center gap-2">
              <button
                className="btn btn-primary btn-sm"
                disabled={busy || able.length === 0 || isRefused}
                onClick={() => void apply()}
              >
                Apply to {plural(able.length, 'sound')}
              </button>
              <Link className="btn btn-ghost btn-sm" href={`/p/${project.id}/collect`}>
                Leave
              </Link>
            </div>
            {able.length < looks.length && (
              <p className="text-warning mt-1">
                {plural(looks.length - able.length, 'sound')} cannot have it; the list says why.
              </p>
            )}
          </div>
          <LoopTable looks={looks} seams={seams} />
        </div>
      )}
    </div>
  );
}

/** Why the same points cannot be those of all; null where they can. */
function alignmentProblem(sounds: readonly Sound[]): string | null {
  try {
    checkAligned(
      sounds.map((sound) => ({
        name: sound.name,
        shape: shapeWithoutLoop({
          shape: shapeOf(sound),
          marks: sound.facts!,
          recipe: sound.recipe,
        }),
      })),
    );
    return null;
  } catch (error) {
    return errorFacts(error).message;
  }
}
