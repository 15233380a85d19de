import type { WalkedStep } from '@/core/recipe/recipe';
import type { Recipe, Shape } from '@/core/recipe/types';
import type { Sound } from '@/wire';

/** What the list needs to know of the sound whose recipe it shows; null where it is for many. */
export interface RecipeOf {
  sound: Sound | null;
  source: Shape;
  recipe: Recipe;
  walked: readonly WalkedStep[];
  save(recipe: Recipe): void;
}
