'use client';

import { useRouter } from 'next/navigation';
import type { PackLine, Sound } from '@/wire';
import { useProject } from '../../shared/project';
import { useAction } from '../../shared/useAction';
import { stepsAround } from '../api';
import { chooseCandidates, chooseSounds } from './choice';

/** Leads to Compare, with fine steps around what is made here. */
export function CompareSettings({ line, sound }: { line: PackLine; sound: Sound }) {
  const { project } = useProject();
  const router = useRouter();
  const { run, busy } = useAction();
  const own = line.plans.filter(({ isCopy }) => !isCopy);
  if (own.length === 0) return null;
  return (
    <button
      className="btn btn-ghost btn-xs"
      disabled={busy}
      title="Try finer steps of this setting on this sound, at Compare"
      onClick={() =>
        void run(async () => {
          const steps = await Promise.all(
            own.map(({ writer, settings, rateHz, channels }) =>
              stepsAround({
                ...{ writer, settings, rateHz },
                channels: channels === 1 ? 'mix' : 'stereo',
              }),
            ),
          );
          chooseSounds([sound.id]);
          chooseCandidates(steps.flat());
          router.push(`/p/${project.id}/compare/new`);
        })
      }
    >
      Compare settings…
    </button>
  );
}
