import type { Place } from './store';

/** The address of one cell of the matrix. */
export function cellAddress(projectId: number, { soundId, briefId }: Place): string {
  return `/p/${projectId}/pack?cell=${soundId}.${encodeURIComponent(briefId)}`;
}

/** The cell that an address names; null for none. */
export function addressedCell(search: string): Place | null {
  const [, soundId, briefId] =
    /^(\d+)\.(.+)$/.exec(new URLSearchParams(search).get('cell') ?? '') ?? [];
  return soundId && briefId ? { soundId: Number(soundId), briefId } : null;
}
