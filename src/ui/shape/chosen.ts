import { useMemo, useSyncExternalStore } from 'react';
import type { Sound } from '@/wire';
import { useProject } from '../shared/project';

/** Sounds as they stand in an address: "3,4,9". What is no number is left out. */
export function idsOf(text: string | undefined): number[] {
  return (text ?? '')
    .split(',')
    .map(Number)
    .filter((id) => Number.isSafeInteger(id) && id > 0);
}

/** An address may be so long; what is more travels beside it, for this window alone. */
const MOST_IN_ADDRESS = 100;
const CARRIED = 'bijou carried';
/** Stands in the address in place of what travels beside it. */
const CARRIED_MARK = 'chosen';

/** The address of a page that works on many sounds. */
export function pathFor(
  projectId: number,
  page: 'join' | 'several' | 'loops',
  soundIds: readonly number[],
): string {
  const path = `/p/${projectId}/shape/${page}`;
  if (soundIds.length <= MOST_IN_ADDRESS) return `${path}?sounds=${soundIds.join(',')}`;
  return `${path}?sounds=${CARRIED_MARK}`;
}

/** Puts down what a page is to work on before it is gone to. */
export function carry(soundIds: readonly number[]): void {
  sessionStorage.setItem(CARRIED, soundIds.join(','));
}

/** Those of the chosen sounds that have been read, in the order of the project. */
export function useReadSounds(soundIds: readonly number[]): Sound[] {
  const { sounds } = useProject();
  return useMemo(() => {
    const ids = new Set(soundIds);
    return sounds.filter(({ id, facts }) => ids.has(id) && facts !== null);
  }, [sounds, soundIds]);
}

const never = () => () => undefined;

/** What a page is to work on: as its address says, or as it was carried there. */
export function useChosenFor(address: string | undefined): number[] {
  const carried = useSyncExternalStore(
    never,
    () => sessionStorage.getItem(CARRIED) ?? '',
    () => '',
  );
  const text = address === CARRIED_MARK ? carried : address;
  return useMemo(() => idsOf(text), [text]);
}
