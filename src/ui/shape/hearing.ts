import type { Recipe } from '@/core/recipe/types';
import type { Sound } from '@/wire';
import { play, useListening } from '../strip/listening';
import { useDesk } from './desk';

/** Around a place that one wants to hear. */
const SECONDS_AROUND = 1;

/**
 * Hears a sound behind only the first of its steps, from where one listens or around a place of it. None of
 * its steps is the source itself.
 */
export function hearSteps(
  sound: Sound,
  recipe: Recipe,
  steps: number,
  label: string,
  place?: number,
): void {
  const isSource = !recipe.steps.some(({ on }) => on);
  useDesk.setState({ part: isSource ? null : { steps, label } });
  // The strip learns of the version when the screen is drawn.
  requestAnimationFrame(() => {
    const key = isSource ? `source-${sound.id}` : `part-${sound.id}`;
    const { versions } = useListening.getState();
    const version = versions.find((one) => one.key === key);
    if (!version) return;
    const reach = SECONDS_AROUND * version.rateHz;
    const range =
      place === undefined
        ? null
        : { start: Math.max(0, place - reach), end: Math.min(version.frames, place + reach) };
    useListening.setState({ current: key });
    play({ frame: range?.start ?? 0, range });
  });
}
