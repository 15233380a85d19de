import { useEffect, useSyncExternalStore } from 'react';

const keyOf = (projectId: number) => `bijou sound ${projectId}`;
const never = () => () => undefined;

/** The sound at which Shape was the last time in this window; null on the server and where it was at none. */
export function useLastSound(projectId: number): number | null {
  const stored = useSyncExternalStore(
    never,
    () => sessionStorage.getItem(keyOf(projectId)),
    () => null,
  );
  return stored === null ? null : Number(stored);
}

/** Remembers at which sound Shape is. */
export function useRemembered(projectId: number, soundId: number | undefined): void {
  useEffect(() => {
    if (soundId !== undefined) sessionStorage.setItem(keyOf(projectId), String(soundId));
  }, [projectId, soundId]);
}
