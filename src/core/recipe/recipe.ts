import * as yup from 'yup';
import { BijouError, errorFacts, type ErrorFacts } from '../errors';
import { moveMarks, noMarks, noParts, type Marks, type SoundMarks } from '../marks';
import { streamOf, type PcmSource } from '../pcm/source';
import { stepKinds } from './steps';
import { plainTools, type Recipe, type Shape, type Step, type StepKind } from './types';

/** The kind of a step; undefined for one that only a newer Bijou knows. */
export function kindOf(step: Step): StepKind | undefined {
  return stepKinds.find(({ kind }) => kind === step.kind);
}

/** @throws bad-setting for a step that only a newer Bijou knows. */
function knownKind(step: Step): StepKind {
  const kind = kindOf(step);
  if (kind) return kind;
  throw new BijouError(
    'bad-setting',
    `The recipe has a step "${step.kind}" that this version of Bijou does not know.`,
    'Update Bijou, or switch that step off.',
  );
}

/** What one step of a recipe comes to. */
export interface WalkedStep {
  step: Step;
  before: Shape;
  /** As before where the step is off or cannot be done. */
  after: Shape;
  /** What it does, in one line. */
  sentence: string;
  /** Why it cannot be done where it stands. */
  problem: ErrorFacts | null;
}

/** Every step in its place, also those that are off or cannot be done: these change nothing. */
export function walkRecipe({ steps }: Recipe, source: Shape): WalkedStep[] {
  let before = source;
  return steps.map((step) => {
    const walked = walkStep(step, before);
    before = walked.after;
    return walked;
  });
}

function walkStep(step: Step, before: Shape): WalkedStep {
  const kind = kindOf(step);
  const sentence = kind?.describe(step.params, before) ?? `a step of a newer Bijou: ${step.kind}`;
  if (!step.on) return { step, before, after: before, sentence, problem: null };
  try {
    return {
      step,
      before,
      after: knownKind(step).shape(before, step.params),
      sentence,
      problem: null,
    };
  } catch (error) {
    return { step, before, after: before, sentence, problem: errorFacts(error) };
  }
}

/** Shape of the sound behind the whole recipe. @throws what the first impossible step says. */
export function shapeAfter(recipe: Recipe, before: Shape): Shape {
  return active(recipe).reduce((shape, step) => knownKind(step).shape(shape, step.params), before);
}

/**
 * The sound behind all steps that are on. Steps that need the whole sound measure it now; samples
 * are worked out when they are read, from any frame on, and are the same wherever reading began.
 */
export async function applyRecipe(
  recipe: Recipe,
  source: PcmSource,
  tools = plainTools,
): Promise<PcmSource> {
  const steps = active(recipe);
  const remember = tools.figure ?? ((_, measure) => measure());
  const { loop = null } = source;
  let marks: SoundMarks = { ...noMarks, ...noParts, loop };
  let sound = source;
  for (const [i, step] of steps.entries()) {
    const kind = knownKind(step);
    // Refuses what cannot be done before anything is read.
    const after = kind.shape(sound, step.params);
    const before = sound;
    const figure =
      kind.measure &&
      (await remember(stepsKey(steps.slice(0, i + 1)), () =>
        kind.measure!(streamOf(before), step.params),
      ));
    marks = marksBehind(step, marks, before, after);
    sound = { ...kind.apply(before, step.params, { figure, tools }), loop: marks.loop };
  }
  return sound;
}

/**
 * The most that the sample peak can be behind the whole recipe, in dBFS; Infinity where only reading tells.
 * `peakDbfs` is that of the source, null for silence.
 */
export function peakAtMost(recipe: Recipe, peakDbfs: number | null): number {
  return active(recipe).reduce(
    (most, step) => kindOf(step)?.peakAtMost?.(most, step.params) ?? Infinity,
    peakDbfs ?? -Infinity,
  );
}

/** What tells recipes apart that give another result: only what is on, and what it is set to. */
export function recipeKey(recipe: Recipe): string {
  return stepsKey(active(recipe));
}

function stepsKey(steps: readonly Step[]): string {
  return JSON.stringify(steps.map(({ kind, params }) => [kind, params]));
}

/** Whether a step that is on goes into the sound in several places. `along` as `marksAlong` says. */
export function rereads(recipe: Recipe, along: readonly SoundMarks[]): boolean {
  return active(recipe).some((step, i) => kindOf(step)?.rereads?.(step.params, along[i]!.loop));
}

/** Where the recipe leaves tags, loop and markers, and what its steps set of them: in front of it and behind each step. */
export function marksAlong(recipe: Recipe, before: Shape, marks: Marks): SoundMarks[] {
  // Of all that may be known of a sound besides, which takes long to be copied.
  const { tags, loop, markers } = marks;
  const first: SoundMarks = { ...noParts, tags, loop, markers };
  let shape = before;
  let now = first;
  const along = active(recipe).map((step) => {
    const kind = knownKind(step);
    const after = kind.shape(shape, step.params);
    now = marksBehind(step, now, shape, after);
    shape = after;
    return now;
  });
  return [first, ...along];
}

function marksBehind(step: Step, marks: SoundMarks, before: Shape, after: Shape): SoundMarks {
  const kind = knownKind(step);
  const place = kind.place?.(before, step.params);
  const moved = place ? moveMarks(marks, place, after.frames) : marks;
  return kind.marks?.(moved, step.params) ?? moved;
}

/** The marks behind the whole recipe. */
export function marksAfter(recipe: Recipe, before: Shape, marks: Marks): SoundMarks {
  return marksAlong(recipe, before, marks).at(-1)!;
}

/** One line for each step that is on. @throws as `shapeAfter` */
export function describeRecipe(recipe: Recipe, before: Shape): string[] {
  shapeAfter(recipe, before);
  return walkRecipe(recipe, before)
    .filter(({ step }) => step.on)
    .map(({ sentence }) => sentence);
}

export function active(recipe: Recipe): Step[] {
  return recipe.steps.filter((step) => step.on);
}

const outer = yup
  .object({
    version: yup.mixed<1>().oneOf([1]).required(),
    steps: yup
      .array(
        yup
          .object({
            kind: yup.string().max(40).required(),
            on: yup.boolean().required(),
            params: yup.object().required(),
          })
          .noUnknown(),
      )
      .max(200)
      .required(),
  })
  .noUnknown();

/** Text of a recipe is not longer than this. */
const MOST_CHARACTERS = 100_000;

/**
 * Checks data from outside. Steps that only a newer Bijou knows are kept as they are.
 * @throws bad-setting that names the step and what is wrong with it.
 */
export function parseRecipe(data: unknown): Recipe {
  try {
    const recipe = outer.validateSync(data, { strict: true }) as Recipe;
    for (const step of recipe.steps) {
      kindOf(step)?.params.noUnknown().validateSync(step.params, { strict: true });
    }
    if (JSON.stringify(recipe).length > MOST_CHARACTERS) throw new Error('it is far too long');
    return recipe;
  } catch (error) {
    const message = error instanceof Error ? error.message : String(error);
    throw new BijouError(
      'bad-setting',
      `That recipe cannot be used: ${message}.`,
      'Change that step.',
    );
  }
}
