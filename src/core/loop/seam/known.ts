import type { Outcome } from '../../recipe/outcome';
import { active } from '../../recipe/recipe';
import type { Recipe } from '../../recipe/types';
import type { SeamFigures } from './index';

/** Steps that give a sound another loop than its file states. */
const looping = new Set(['loop', 'unroll']);

export function setsLoop(recipe: Recipe): boolean {
  return active(recipe).some(({ kind }) => looping.has(kind));
}

/** The seam of the loop that a sound has now, as far as it was measured: its recipe's, else its file's. */
export function knownSeam(
  recipe: Recipe,
  ofFile: SeamFigures | null,
  outcome: Outcome | null,
): SeamFigures | null {
  return setsLoop(recipe) ? (outcome?.seam ?? null) : ofFile;
}
