import { keptOfSource, speaksOfSource } from './kept';
import type { Recipe, Step } from './types';

/** Whether the recipe does already what a cure would do. A cure without steps is never done. */
export function isCured(recipe: Recipe, cure: readonly Step[]): boolean {
  return (
    cure.length > 0 && cure.every((step) => recipe.steps.some((own) => own.on && does(own, step)))
  );
}

/**
 * The recipe with a cure in it. Two kept spans become what both keep; steps about the source stand in
 * front; what is there already is not put in twice.
 */
export function withCure(recipe: Recipe, cure: readonly Step[]): Recipe {
  return cure.reduce((whole, step) => ({ ...whole, steps: withStep(whole.steps, step) }), recipe);
}

function withStep(steps: readonly Step[], step: Step): Step[] {
  if (steps.some((own) => own.on && does(own, step))) return [...steps];
  if (!speaksOfSource(step)) return [...steps, step];
  const kept = step.kind === 'keep' ? keptOfSource(steps) : undefined;
  return kept ? steps.map((own) => (own === kept ? bothKept(own, step) : own)) : [step, ...steps];
}

function does(own: Step, step: Step): boolean {
  if (own.kind !== step.kind) return false;
  if (step.kind !== 'keep') {
    return Object.entries(step.params).every(([name, value]) => own.params[name] === value);
  }
  const [kept, wanted] = [spanOf(own), spanOf(step)];
  return kept.start >= wanted.start && kept.end <= wanted.end;
}

function bothKept(own: Step, step: Step): Step {
  const [a, b] = [spanOf(own), spanOf(step)];
  const startFrame = Math.max(a.start, b.start);
  const endFrame = Math.min(a.end, b.end);
  // Spans that do not meet: what a person chose stays.
  if (endFrame <= startFrame) return own;
  return { ...own, params: { ...own.params, startFrame, endFrame } };
}

function spanOf({ params }: Step): { start: number; end: number } {
  return { start: Number(params['startFrame']), end: Number(params['endFrame']) };
}
