import { BijouError } from '@/core/errors';
import { soundName } from '@/core/pack/names';
import { parseRecipe } from '@/core/recipe/recipe';
import { recipeForMany, type ManyMode } from '@/core/recipe/retime';
import type { Applied } from '@/wire';
import type { Context } from '../context';
import type { EditService, ValuesOfSound } from './edits';
import { newProblem, sourceShape } from './sounds';

/** A recipe for many sounds. Its frames are of `rateHz`; each sound gets them at its own rate. */
export interface ForMany {
  recipe: unknown;
  rateHz: number;
  mode: ManyMode;
  /** What the history calls it. */
  name?: string | undefined;
  /** The revision that it was made on. */
  revision?: number | undefined;
}

/** Recipes for many sounds at once, and recipes under a name. */
export function shapingService({ db }: Context, edits: EditService) {
  /** Gives a recipe to many sounds in one change; those that cannot take it are named and left alone. */
  function apply(projectId: number, soundIds: readonly number[], forMany: ForMany): Applied {
    const recipe = parseRecipe(forMany.recipe);
    if (recipe.steps.length === 0 && forMany.mode === 'behind') throw noSteps();
    const failed: Applied['failed'] = [];
    const list = soundIds.flatMap((soundId): ValuesOfSound[] => {
      const sound = db.sounds.byId(soundId);
      if (sound?.projectId !== projectId || sound.removedAt !== null) return [];
      try {
        const shape = sourceShape(sound);
        const whole = recipeForMany(recipe, forMany, sound.recipe, shape.rateHz);
        const problem = newProblem(whole, sound.recipe, shape);
        if (!problem) return [{ soundId, values: { recipe: whole } }];
        failed.push({ soundId, name: sound.name, message: problem.message });
      } catch (error) {
        if (!(error instanceof BijouError)) throw error;
        failed.push({ soundId, name: sound.name, message: error.message });
      }
      return [];
    });
    const what = forMany.name ? `“${soundName(forMany.name)}”` : 'steps';
    return { ...edits.change(projectId, `Apply ${what} to`, list, forMany.revision), failed };
  }

  /** Keeps a recipe under a name. @throws bad-setting */
  function save(name: string, data: unknown, rateHz: number) {
    const recipe = parseRecipe(data);
    if (recipe.steps.length === 0) throw noSteps();
    db.recipes.save(soundName(name), recipe, rateHz);
    return db.recipes.all();
  }

  function forget(id: number) {
    if (db.recipes.forget(id)) return db.recipes.all();
    throw new BijouError('not-found', 'That recipe is not there any more.', 'Reload the page.');
  }

  return { apply, save, forget, saved: () => db.recipes.all() };
}

function noSteps(): BijouError {
  return new BijouError('bad-setting', 'The recipe has no steps.', 'Add at least one step first.');
}
