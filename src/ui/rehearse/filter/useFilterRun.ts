'use client';

import { useEffect, useRef, useState } from 'react';
import type { FilterScene } from '@/core/host/filter/scene';
import type { LoadedPack } from '@/player/host/messages';
import type { Rehearsal } from '../rehearsing';
import { FilterRun } from './run';

/** The run of the filter for what is loaded; a pack that is loaded again goes into the one that runs. */
export function useFilterRun(
  rehearsal: Rehearsal,
  { sounds, scene }: LoadedPack,
): FilterRun | null {
  const kept = useRef<FilterRun | null>(null);
  const [run, setRun] = useState<FilterRun | null>(null);
  useEffect(() => {
    const settings = scene as FilterScene | null;
    if (!settings) return;
    if (kept.current) kept.current.reload(sounds, settings.choices);
    else kept.current = new FilterRun(rehearsal, sounds, settings.choices);
    setRun(kept.current);
  }, [rehearsal, scene, sounds]);
  useEffect(
    () => () => {
      kept.current?.close();
      kept.current = null;
    },
    [],
  );
  return run;
}
