'use client';

import { useRouter } from 'next/navigation';
import { toast } from 'sonner';
import { create } from 'zustand';
import type { PackSummary } from '@/wire';
import { ApiError, call } from '../shared/api';
import { useProject, useRefresh } from '../shared/project';
import type { Mend } from './causes';

/** What is being done, in words; null for nothing. */
const useDoing = create<{ at: string | null }>(() => ({ at: null }));

const LOOK_AGAIN_MS = 400;

/** Mends, makes the pack again, and loads it into the host that one is at. */
export function useMending() {
  const { project } = useProject();
  const refresh = useRefresh();
  const router = useRouter();
  const at = useDoing((state) => state.at);
  const mend = async ({ steps, briefId }: Omit<Mend, 'text'>, hostId: string): Promise<void> => {
    if (useDoing.getState().at !== null) return;
    try {
      useDoing.setState({ at: 'Mending …' });
      for (const { path, method, data } of steps) await call(path, method, data);
      useDoing.setState({ at: 'Building and packing …' });
      const made = await call<PackSummary>(`projects/${project.id}/packs`, 'POST', {
        briefs: [briefId],
      });
      const pack = await finished(made);
      await refresh();
      if (pack.error) toast.error(pack.error.message, { description: pack.error.hint });
      else router.replace(`/p/${project.id}/rehearse/${hostId}?pack=${pack.id}`);
    } catch (error) {
      const facts = error instanceof ApiError ? error.facts : null;
      toast.error(facts?.message ?? 'That did not work.', { description: facts?.hint });
      await refresh();
    } finally {
      useDoing.setState({ at: null });
    }
  };
  return { mend, at };
}

/** A pack as soon as it is made, or is not. */
async function finished(pack: PackSummary): Promise<PackSummary> {
  let now = pack;
  while (now.state === 'waiting' || now.state === 'packing') {
    await new Promise((resolve) => setTimeout(resolve, LOOK_AGAIN_MS));
    now = await call<PackSummary>(`packs/${pack.id}`);
  }
  return now;
}
