import type { Recipe, Step } from './types';

/** Steps that speak of frames or rates of the source, and so stand in front of all others. */
const atSource = new Set(['keep', 'relabel']);

export function speaksOfSource(step: Step): boolean {
  return atSource.has(step.kind);
}

/** The step that keeps a span of the source itself, not of what other steps made of it. */
export function keptOfSource(steps: readonly Step[]): Step | undefined {
  const active = steps.filter((step) => step.on);
  const isBehind = active.findIndex((step) => !speaksOfSource(step));
  return active.slice(0, isBehind < 0 ? undefined : isBehind).find(({ kind }) => kind === 'keep');
}

/** The recipe with another span of its source, in frames; a span of all of it needs no step. */
export function withKept(
  recipe: Recipe,
  startFrame: number,
  endFrame: number,
  frames: number,
): Recipe {
  const before = keptOfSource(recipe.steps);
  const isWhole = startFrame === 0 && endFrame === frames;
  const keep: Step = { kind: 'keep', on: true, params: { startFrame, endFrame } };
  if (!before) return isWhole ? recipe : { ...recipe, steps: [keep, ...recipe.steps] };
  const steps = recipe.steps.flatMap((step) => (step !== before ? [step] : isWhole ? [] : [keep]));
  return { ...recipe, steps };
}
