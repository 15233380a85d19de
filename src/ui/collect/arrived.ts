import { useEffect, useEffectEvent } from 'react';
import { create } from 'zustand';
import type { Sound } from '@/wire';
import { useListening } from '../strip/listening';
import { useCue } from '../strip/useCue';
import { chooseOnly, useChoice } from './choice';

/** Sounds with a higher id came in last, and nothing else was chosen then; null where that is long ago. */
const useExpected = create<{ since: number | null }>(() => ({ since: null }));

/** Files are coming in: where nothing is chosen, they will be. */
export function expect(newest: number): void {
  if (useChoice.getState().ids.size === 0) useExpected.setState({ since: newest });
}

/** Whether these have just come in, and others of them may still be read: then since which sound. */
export function arrivingSince(ids: readonly number[]): number | null {
  const { since } = useExpected.getState();
  return since !== null && ids.every((id) => id > since) ? since : null;
}

/** Chooses what has just come in, and puts it where Space plays it, until somebody chooses something else. */
export function useArrived(sounds: readonly Sound[]): void {
  const { since } = useExpected();
  const { ids } = useChoice();
  const cue = useCue();
  const arrived =
    since === null
      ? []
      : sounds.filter(({ id, state, facts }) => id > since && state === 'ready' && facts !== null);
  const known = arrived.map(({ id }) => id).join();
  const choose = useEffectEvent(() => {
    if (since === null || arrived.length === 0) return;
    const isOwn = [...ids].every((id) => id > since);
    if (!isOwn || ids.size > arrived.length) {
      useExpected.setState({ since: null });
      return;
    }
    chooseOnly(arrived.map(({ id }) => id));
    const isFirst = ids.size === 0;
    if (isFirst && !useListening.getState().playing) cue(arrived[0]!);
  });
  // Only when another one has come.
  useEffect(() => choose(), [known]);
}
