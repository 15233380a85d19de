import type { Choices } from '@/core/brief/choices';
import type { Brief } from '@/core/brief/schema';
import type { Changed } from '@/wire';
import { plural } from './format';
import { useTold } from './history';
import { useProject } from './project';
import { useChange } from './useChange';

/** Sending sounds to destinations, many at once: every call is one step that can be undone. */
export function useSending() {
  const { project } = useProject();
  const { change, busy } = useChange();
  const told = useTold();
  const post = (sounds: readonly number[], brief: Brief, more: object) =>
    change<Changed>(`projects/${project.id}/assignments`, 'POST', {
      sounds,
      briefs: [brief.id],
      ...more,
    });
  return {
    busy,
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
    async choose(sounds: readonly number[], brief: Brief, choices: Choices): Promise<void> {
      const made = await post(sounds, brief, { choices });
      if (made && sounds.length > 1) {
        told(`Chosen for ${plural(made.changed, 'sound')} at ${brief.title}.`, made.changeId);
      }
    },
  };
}
