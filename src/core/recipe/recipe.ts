import * as yup from 'yup';
import { BijouError } from '../errors';
import type { PcmStream } from '../pcm/pcm';
import { stepKinds } from './steps';
import type { Recipe, Shape, Step, StepKind } from './types';

function kindOf(step: Step): StepKind {
  const kind = stepKinds.find((k) => k.kind === step.kind);
  if (kind) return kind;
  throw new BijouError(
    'bad-setting',
    `The recipe has a step "${step.kind}" that this version of Bijou does not know.`,
    'Update Bijou, or switch that step off.',
  );
}

/** Shape of the sound behind the whole recipe. @throws what the first impossible step says. */
export function shapeAfter(recipe: Recipe, before: Shape): Shape {
  return active(recipe).reduce((shape, step) => kindOf(step).shape(shape, step.params), before);
}

/** Applies the steps that are on, in order. */
export function applyRecipe(recipe: Recipe, pcm: PcmStream): PcmStream {
  return active(recipe).reduce((stream, step) => kindOf(step).apply(stream, step.params), pcm);
}

/** One line for each step that is on. */
export function describeRecipe(recipe: Recipe, before: Shape): string[] {
  let shape = before;
  return active(recipe).map((step) => {
    const kind = kindOf(step);
    const line = kind.describe(step.params, shape);
    shape = kind.shape(shape, step.params);
    return line;
  });
}

function active(recipe: Recipe): Step[] {
  return recipe.steps.filter((step) => step.on);
}

const outer = yup
  .object({
    version: yup.mixed<1>().oneOf([1]).required(),
    steps: yup
      .array(
        yup.object({
          kind: yup.string().required(),
          on: yup.boolean().required(),
          params: yup.mixed<Record<string, unknown>>().required(),
        }),
      )
      .max(200)
      .required(),
  })
  .noUnknown();

/** Checks data from outside. @throws bad-setting that names the step and what is wrong with it. */
export function parseRecipe(data: unknown): Recipe {
  try {
    const recipe = outer.validateSync(data, { strict: true }) as Recipe;
    for (const step of recipe.steps) {
      kindOf(step).params.noUnknown().validateSync(step.params, { strict: true });
    }
    return recipe;
  } catch (error) {
    if (error instanceof BijouError) throw error;
    const message = error instanceof Error ? error.message : String(error);
    throw new BijouError(
      'bad-setting',
      `That recipe cannot be used: ${message}.`,
      'Change that step.',
    );
  }
}
