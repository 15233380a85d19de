import * as yup from 'yup';
import { BijouError } from '../errors';
import { moveMarks, type Marks } from '../marks';
import type { PcmStream } from '../pcm/pcm';
import { stepKinds } from './steps';
import {
  plainTools,
  type Recipe,
  type Shape,
  type Step,
  type StepKind,
  type StepTools,
} from './types';

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

/** A sound that a recipe is applied to. It may be read several times: some steps measure it first. */
export interface RecipeSource {
  shape: Shape;
  open(): PcmStream;
}

/** Applies the steps that are on, in order. Steps that need the whole sound read it beforehand. */
export async function applyRecipe(
  recipe: Recipe,
  source: RecipeSource,
  tools: StepTools = plainTools,
): Promise<PcmStream> {
  type Done = (pcm: PcmStream, tools: StepTools) => PcmStream;
  const done: Done[] = [];
  // A stream without a stated length has the one that was counted.
  const open = (use: StepTools) =>
    done.reduce<PcmStream>((pcm, apply) => apply(pcm, use), {
      ...source.open(),
      frames: source.shape.frames,
    });
  let before = source.shape;
  for (const { kind, params } of active(recipe).map(known)) {
    // What a measuring pass mends or raises is said once, when it is done for good.
    const quiet = { ...tools, note: () => undefined };
    const figure = await kind.measure?.(open(quiet), params);
    const context = { before, figure };
    done.push((pcm, use) => kind.apply(pcm, params, { ...context, tools: use }));
    before = kind.shape(before, params);
  }
  return open(tools);
}

/** Where the recipe leaves tags, loop and markers. */
export function marksAfter(recipe: Recipe, before: Shape, marks: Marks): Marks {
  let shape = before;
  return active(recipe)
    .map(known)
    .reduce((moved, { kind, params }) => {
      const after = kind.shape(shape, params);
      const place = kind.place?.(shape, params);
      shape = after;
      return place ? moveMarks(moved, place, after.frames) : moved;
    }, marks);
}

function known(step: Step) {
  return { kind: kindOf(step), params: step.params };
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
