import type { ChangedChoices } from '@/core/brief/choices';
import type { Brief } from '@/core/brief/schema';
import type { Changed } from '@/wire';
import { plural } from './format';
import { useTold } from './history';
import { useProject } from './project';
import { useChange } from './useChange';

/** A sound at a brief. */
interface CellPlace {
  soundId: number;
  briefId: string;
}

/** Sending sounds to destinations, many at once: every call is one step that can be undone. */
export function useSending() {
  const { project } = useProject();
  const { change, busy } = useChange();
  const told = useTold();
  const postPairs = (places: readonly CellPlace[], more: object) =>
    change<Changed>(`projects/${project.id}/assignments`, 'POST', {
      pairs: places.map(({ soundId, briefId }) => ({ sound: soundId, brief: briefId })),
      ...more,
    });
  const post = (sounds: readonly number[], brief: Brief, more: object) =>
    change<Changed>(`projects/${project.id}/assignments`, 'POST', {
      sounds,
      briefs: [brief.id],
      ...more,
    });
  return {
    busy,
    /** The same for single cells, of several destinations at once. */
    async sendPlaces(places: readonly CellPlace[]): Promise<void> {
      if (places.length === 0) return;
      const made = await postPairs(places, {});
      if (made) told(`${plural(made.changed, 'sound')} sent.`, made.changeId);
    },
    async releasePlaces(places: readonly CellPlace[]): Promise<void> {
      if (places.length === 0) return;
      const made = await postPairs(places, { release: true });
      if (made) told(`${plural(places.length, 'cell')} released.`, made.changeId);
    },
    async choosePlaces(places: readonly CellPlace[], choices: ChangedChoices): Promise<void> {
      if (places.length === 0) return;
      const made = await postPairs(places, { choices });
      if (made && places.length > 1) {
        told(`Chosen for ${plural(places.length, 'cell')}.`, made.changeId);
      }
    },
    async send(sounds: readonly number[], brief: Brief): Promise<void> {
      const made = await post(sounds, brief, {});
      if (made) told(`${plural(made.changed, 'sound')} sent to ${brief.title}.`, made.changeId);
    },
    async release(sounds: readonly number[], brief: Brief): Promise<void> {
      const made = await post(sounds, brief, { release: true });
      if (!made) return;
      told(`${plural(made.changed, 'sound')} not sent to ${brief.title} any more.`, made.changeId);
    },
    /** What was chosen before and is not named stays. */
    async choose(sounds: readonly number[], brief: Brief, choices: ChangedChoices): Promise<void> {
      const made = await post(sounds, brief, { choices });
      if (made && sounds.length > 1) {
        told(`Chosen for ${plural(made.changed, 'sound')} at ${brief.title}.`, made.changeId);
      }
    },
  };
}
