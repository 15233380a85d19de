import { useMemo } from 'react';
import type { Recipe } from '@/core/recipe/types';
import type { ShapedLevels, Sound } from '@/wire';
import { decibels } from '../../shared/format';
import { useAnswer } from '../ask';

/** The first steps of a recipe. */
export function firstSteps(recipe: Recipe, count: number): Recipe {
  return { ...recipe, steps: recipe.steps.slice(0, count) };
}

/** Levels behind the first steps of a recipe, as soon as they are measured. */
export function useLevels(sound: Sound, recipe: Recipe, isThorough = false, isWanted = true) {
  const asked = useMemo(() => ({ sound, recipe }), [sound, recipe]);
  return useAnswer<ShapedLevels>(asked, 'levels', { isThorough }, isWanted);
}

/** What a step did to the level. */
export function StepEffect({ sound, recipe, at }: { sound: Sound; recipe: Recipe; at: number }) {
  const before = useLevels(sound, firstSteps(recipe, at));
  // One after the other: the later ones need what the earlier ones measured.
  const after = useLevels(sound, firstSteps(recipe, at + 1), false, before.data !== undefined);
  if (after.problem) return <p className="text-error text-xs">{after.problem.message}</p>;
  if (!before.data || !after.data) {
    return before.isFetching || after.isFetching ? (
      <p className="text-soft text-xs">measuring …</p>
    ) : null;
  }
  const [a, b] = [before.data.peakDbfs, after.data.peakDbfs];
  if (decibels(a) === decibels(b)) return null;
  return (
    <p className="text-soft text-xs">
      peak {decibels(a)} → {decibels(b)} dBFS
    </p>
  );
}
