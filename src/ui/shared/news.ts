import type { ProjectNews, ProjectState, Sound } from '@/wire';

/** The state with what has changed since. Sounds that did not change stay the same objects. */
export function withNews(before: ProjectState, news: ProjectNews): ProjectState {
  const { changed, gone, cells: fresh, ...around } = news;
  if (changed.length + gone.length === 0) return { ...before, ...around };
  const byId = new Map<number, Sound>(before.sounds.map((sound) => [sound.id, sound]));
  for (const id of gone) byId.delete(id);
  for (const sound of changed) byId.set(sound.id, sound);
  // Sounds stand in the order in which they came, also those that are brought back.
  const sounds = [...byId.values()].sort((a, b) => a.id - b.id);
  const isOther = new Set([...gone, ...changed.map(({ id }) => id)]);
  const cells = [...before.cells.filter(({ soundId }) => !isOther.has(soundId)), ...fresh].sort(
    (a, b) => a.id - b.id,
  );
  return { ...before, ...around, sounds, cells };
}
