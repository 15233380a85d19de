import type { Recipe, Step } from '@/core/recipe/types';
import type { Sound } from '@/wire';

/** The part of a source that is used: frames from `start` up to, not including, `end`. */
export interface Span {
  start: number;
  end: number;
}

/** The kept span of a sound; all of it where its recipe keeps everything. */
export function keptSpan(sound: Sound): Span {
  const step = sound.recipe.steps.find(isKeep);
  return step
    ? { start: Number(step.params['startFrame']), end: Number(step.params['endFrame']) }
    : { start: 0, end: sound.facts?.frames ?? 0 };
}

/** The recipe with another kept span; a span of the whole sound needs no step. */
export function withSpan(recipe: Recipe, span: Span, frames: number): Recipe {
  const others = recipe.steps.filter((step) => !isKeep(step));
  const isWhole = span.start === 0 && span.end === frames;
  const keep: Step = {
    kind: 'keep',
    on: true,
    params: { startFrame: span.start, endFrame: span.end },
  };
  return { ...recipe, steps: isWhole ? others : [keep, ...others] };
}

function isKeep(step: Step): boolean {
  return step.on && step.kind === 'keep';
}
