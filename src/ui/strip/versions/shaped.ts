import { recipeKey, shapeAfter } from '@/core/recipe/recipe';
import { traceRecipe } from '@/core/recipe/trace';
import type { Recipe, Shape } from '@/core/recipe/types';
import type { Version } from '../listening';
import { listened, type Heard, type VersionProvider } from './types';

/** The sound behind its recipe. */
export const shapedVersion: VersionProvider = (heard) => {
  const key = `shaped-${heard.sound.id}`;
  const version = behind(heard, heard.recipe, key, 'Shaped');
  return version ? [{ ...version, loudness: heard.loudness }] : [];
};

/** The sound behind a part of its recipe, while one wants to hear that. */
export const partVersion: VersionProvider = (heard) => {
  const { part, sound } = heard;
  const version = part && behind(heard, part.recipe, `part-${sound.id}`, part.label);
  return version ? [version] : [];
};

/** A sound behind a recipe; null where that changes nothing or cannot be done. */
function behind(
  { sound, source }: Heard,
  recipe: Recipe,
  key: string,
  label: string,
): Version | null {
  if (!recipe.steps.some((step) => step.on)) return null;
  let shape: Shape;
  try {
    shape = shapeAfter(recipe, source);
  } catch {
    return null;
  }
  const trace = traceRecipe(recipe, source);
  return {
    key,
    content: `${sound.sourceSha256} ${recipeKey(recipe)}`,
    label,
    ...listened(shape),
    loudness: null,
    url: `/api/sounds/${sound.id}/shaped/pcm`,
    recipe,
    toSource: trace.back,
    fromSource: (frame) => trace.forward(frame) ?? nearest(trace.forward, frame, source.frames),
  };
}

/** Where a frame that was cut away would have been: what is left of it that lies next. */
function nearest(forward: (frame: number) => number | null, frame: number, frames: number): number {
  const step = Math.max(1, frames / 1_000);
  for (let away = step; away <= frames; away += step) {
    for (const side of [frame + away, frame - away]) {
      const at = side >= 0 && side <= frames ? forward(side) : null;
      if (at !== null) return at;
    }
  }
  return 0;
}
