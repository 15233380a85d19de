'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { gainTogether } from '@/core/oneOff/together';
import { recipeForMany, type ManyMode } from '@/core/recipe/retime';
import type { NormaliseParams } from '@/core/recipe/steps/normalise';
import type { Recipe, Step } from '@/core/recipe/types';
import type { ShapedLevels, Sound } from '@/wire';
import { answerOf } from '../ask';

/** Where the one step is that brings each sound to a level of its own; -1 where there is none, or more. */
function normalisingStep({ steps }: Recipe): number {
  const at = steps.flatMap(({ kind, on }, i) => (kind === 'normalise' && on ? [i] : []));
  return at.length === 1 ? at[0]! : -1;
}

/**
 * Offers one gain for all in place of a level for each, so that the balance of stems stays: what the loudest of
 * them needs is measured, and stands as a step that can be read and changed.
 */
export function Together({
  sounds,
  recipe,
  rateHz,
  mode,
  onRecipe,
}: {
  sounds: readonly Sound[];
  recipe: Recipe;
  /** That the recipe's frames are of. */
  rateHz: number;
  mode: ManyMode;
  onRecipe: (recipe: Recipe) => void;
}) {
  const [measured, setMeasured] = useState<number | null>(null);
  const at = normalisingStep(recipe);
  if (at < 0 || sounds.length < 2) return null;
  const replace = async () => {
    const params = recipe.steps[at]!.params as unknown as NormaliseParams;
    const before = { ...recipe, steps: recipe.steps.slice(0, at) };
    const levels: ShapedLevels[] = [];
    try {
      for (const sound of sounds) {
        setMeasured(levels.length);
        const behind = recipeForMany(
          before,
          { rateHz, mode },
          sound.recipe,
          sound.facts!.sampleRateHz,
        );
        levels.push(await answerOf({ sound, recipe: behind }, 'levels', { isThorough: true }));
      }
      const gainDb = gainTogether(
        levels.map((level) => ({ ...level, momentaryLufs: null })),
        params,
      );
      const step: Step = { kind: 'gain', on: true, params: { gainDb: Number(gainDb.toFixed(2)) } };
      onRecipe({ ...recipe, steps: recipe.steps.map((one, i) => (i === at ? step : one)) });
    } catch (error) {
      toast.error(error instanceof Error ? error.message : 'Their levels could not be measured.');
    } finally {
      setMeasured(null);
    }
  };
  return (
    <div className="border-base-300 mt-2 rounded border px-2 py-1.5 text-xs">
      <p className="text-soft">
        Each of them gets a gain of its own. Stems that belong together keep their balance with one
        gain for all: the loudest reaches the level.
      </p>
      <button
        className="btn btn-paper btn-xs mt-1"
        disabled={measured !== null}
        onClick={() => void replace()}
      >
        {measured === null ? 'One gain for all' : `Measuring ${measured + 1} of ${sounds.length} …`}
      </button>
    </div>
  );
}
