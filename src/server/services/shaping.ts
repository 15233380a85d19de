import { BijouError, fromErrorFacts } from '@/core/errors';
import { soundName } from '@/core/pack/names';
import { mayRefuse } from '@/core/recipe/outcome';
import { parseRecipe } from '@/core/recipe/recipe';
import { recipeForMany, type ManyMode } from '@/core/recipe/retime';
import type { Recipe } from '@/core/recipe/types';
import type { Applied, Sound } from '@/wire';
import type { Context } from '../context';
import type { EditService, ValuesOfSound } from './edits';
import type { ListeningService } from './listening';
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
export function shapingService({ db }: Context, edits: EditService, listening: ListeningService) {
  /** Gives a recipe to many sounds in one change; those that cannot take it are named and left alone. */
  async function apply(
    projectId: number,
    soundIds: readonly number[],
    forMany: ForMany,
  ): Promise<Applied> {
    const recipe = parseRecipe(forMany.recipe);
    if (recipe.steps.length === 0 && forMany.mode === 'behind') throw noSteps();
    // Measuring takes a while: what somebody changes meanwhile is not written over.
    const { revision = db.sounds.revision() } = forMany;
    const list: ValuesOfSound[] = [];
    const failed: Applied['failed'] = [];
    for (const soundId of soundIds) {
      const sound = db.sounds.byId(soundId);
      if (sound?.projectId !== projectId || sound.removedAt !== null) continue;
      try {
        list.push({ soundId, values: { recipe: await fitting(sound, recipe, forMany) } });
      } catch (error) {
        if (!(error instanceof BijouError)) throw error;
        failed.push({ soundId, name: sound.name, message: error.message });
      }
    }
    const what = forMany.name ? `“${soundName(forMany.name)}”` : 'steps';
    return { ...edits.change(projectId, `Apply ${what} to`, list, revision), failed };
  }

  /** What a sound gets for a recipe for many. @throws what the first step says that it cannot take */
  async function fitting(sound: Sound, recipe: Recipe, forMany: ForMany): Promise<Recipe> {
    const shape = sourceShape(sound);
    const whole = recipeForMany(recipe, forMany, sound.recipe, shape.rateHz);
    const problem = newProblem(whole, sound.recipe, shape);
    if (problem) throw fromErrorFacts(problem);
    // What was measured for its preview is known already.
    if (mayRefuse(whole, sound.facts!)) {
      const listened = { sha256: sound.sourceSha256, recipe: whole };
      await listening.ask(listened, 'levels', { isThorough: false });
    }
    return whole;
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
