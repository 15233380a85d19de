import type { ObjectSchema } from 'yup';
import type { PcmStream } from '../pcm/pcm';

/** The outer shape of a sound: what steps change besides the samples themselves. */
export interface Shape {
  rateHz: number;
  channelCount: number;
  frames: number;
}

/** One kind of step: everything that Bijou knows about it. */
export interface StepKind<Params extends object = Record<string, unknown>> {
  kind: string;
  /** Name on the screen. */
  name: string;
  params: ObjectSchema<Params>;
  /** What this step does, in one line for people. */
  describe(params: Params, before: Shape): string;
  /** The shape behind the step. @throws bad-span, not-legal when it cannot be done. */
  shape(before: Shape, params: Params): Shape;
  apply(pcm: PcmStream, params: Params): PcmStream;
}

/** One operation of a recipe, as it is stored. */
export interface Step {
  kind: string;
  /** A step that is switched off stays in its place and does nothing. */
  on: boolean;
  params: Record<string, unknown>;
}

/** The steps that turn a source into what its destinations get. */
export interface Recipe {
  version: 1;
  steps: Step[];
}

export const emptyRecipe: Recipe = { version: 1, steps: [] };
