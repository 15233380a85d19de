import { kindOf } from './recipe';
import type { Recipe, Step } from './types';

/** As many frames as any step may ask for, so that only rates matter. */
const ENDLESS = 2 ** 50;

/**
 * A recipe that was made for a sound of one rate, for a sound of another: times stay, frames follow.
 * Ten milliseconds of fade are ten milliseconds everywhere.
 */
export function retimed(recipe: Recipe, fromHz: number, toHz: number): Recipe {
  let [from, to] = [fromHz, toHz];
  return {
    ...recipe,
    steps: recipe.steps.map((step) => {
      const scaled = { ...step, params: scaledParams(step, to / from) };
      [from, to] = [rateBehind(step, from), rateBehind(scaled, to)];
      return scaled;
    }),
  };
}

/** Whether a recipe for many sounds stands behind what each has already, or in its place. */
export type ManyMode = 'behind' | 'instead';

/** What a sound has behind a recipe for many is applied; `rateHz` is what that recipe's frames are of. */
export function recipeForMany(
  recipe: Recipe,
  { rateHz, mode }: { rateHz: number; mode: ManyMode },
  own: Recipe,
  sourceRateHz: number,
): Recipe {
  if (mode === 'instead') return retimed(recipe, rateHz, sourceRateHz);
  const rateBehindOwn = own.steps.reduce((rate, step) => rateBehind(step, rate), sourceRateHz);
  const behind = retimed(recipe, rateHz, rateBehindOwn);
  return { ...own, steps: [...own.steps, ...behind.steps] };
}

function scaledParams(step: Step, factor: number): Step['params'] {
  const counted = (kindOf(step)?.fields ?? []).filter(
    ({ type, name }) =>
      (type === 'place' || type === 'length') && typeof step.params[name] === 'number',
  );
  return {
    ...step.params,
    ...Object.fromEntries(
      counted.map(({ name, type }) => {
        const frames = Number(step.params[name]);
        // A length that was there does not vanish.
        const least = type === 'length' && frames > 0 ? 1 : 0;
        return [name, Math.max(least, Math.round(frames * factor))];
      }),
    ),
  };
}

function rateBehind(step: Step, rateHz: number): number {
  try {
    const before = { rateHz, channelCount: 2, frames: ENDLESS };
    return step.on ? (kindOf(step)?.shape(before, step.params).rateHz ?? rateHz) : rateHz;
  } catch {
    return rateHz;
  }
}
