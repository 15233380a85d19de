import type { ProjectNews, ProjectState } from '@/wire';

/** The state with what has changed since. What did not change stays the same object. */
export function withNews(before: ProjectState, news: ProjectNews): ProjectState {
  const { changed, gone, cells: fresh, goneCells, briefs, ...around } = news;
  const isOther = new Set([...gone, ...changed.map(({ id }) => id)]);
  const left = before.cells.filter(({ soundId }) => isOther.has(soundId)).map(({ id }) => id);
  return {
    ...before,
    ...around,
    briefs: briefs ?? before.briefs,
    sounds: withChanged(before.sounds, changed, gone),
    cells: withChanged(before.cells, fresh, [...goneCells, ...left]),
  };
}

/** A list in the order in which its lines came; it is the same where nothing of it has changed. */
function withChanged<T extends { id: number }>(
  before: T[],
  changed: readonly T[],
  gone: readonly number[],
): T[] {
  if (changed.length + gone.length === 0) return before;
  const byId = new Map(before.map((one) => [one.id, one]));
  for (const id of gone) byId.delete(id);
  for (const one of changed) byId.set(one.id, one);
  // Also what is brought back stands where it stood.
  return [...byId.values()].sort((a, b) => a.id - b.id);
}
