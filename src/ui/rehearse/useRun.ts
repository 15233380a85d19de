'use client';

import { useEffect, useRef, useState } from 'react';
import type { LoadedPack } from '@/player/host/messages';

/** What goes on in a host while its scene is there. */
interface Run {
  /** Takes a pack that was loaded again: what plays goes on. */
  reload(loaded: LoadedPack): void;
  close(): void;
}

/** The run of a scene: begun with the first pack, and gone on with by those that are loaded behind it. */
export function useRun<R extends Run>(
  loaded: LoadedPack,
  make: (loaded: LoadedPack) => R,
): R | null {
  const kept = useRef<R | null>(null);
  const making = useRef(make);
  making.current = make;
  const [run, setRun] = useState<R | null>(null);
  // A line in the log makes another object of it: only these say that it is another pack.
  const { sounds, scene } = loaded;
  const latest = useRef(loaded);
  latest.current = loaded;
  useEffect(() => {
    if (kept.current) kept.current.reload(latest.current);
    else kept.current = making.current(latest.current);
    setRun(kept.current);
  }, [sounds, scene]);
  useEffect(
    () => () => {
      kept.current?.close();
      kept.current = null;
    },
    [],
  );
  return run;
}
