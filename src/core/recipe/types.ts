import type { ObjectSchema } from 'yup';
import { memoryScratch, type Scratch } from '../bytes/source';
import type { Warning } from '../formats/types';
import type { Place } from '../marks';
import type { PcmStream } from '../pcm/pcm';

/** The outer shape of a sound: what steps change besides the samples themselves. */
export interface Shape {
  rateHz: number;
  channelCount: number;
  frames: number;
}

/** What steps may use beside the sound itself. */
export interface StepTools {
  /** A place to put samples aside. */
  scratch(): Promise<Scratch>;
  /** Takes what people should know of what a step did. */
  note(warning: Warning): void;
}

export const plainTools: StepTools = { scratch: memoryScratch, note: () => undefined };

interface StepContext<Figure> {
  before: Shape;
  /** What `measure` found. */
  figure: Figure;
  tools: StepTools;
}

/** One kind of step: everything that Bijou knows about it. */
export interface StepKind<Params extends object = Record<string, unknown>, Figure = unknown> {
  kind: string;
  /** Name on the screen. */
  name: string;
  params: ObjectSchema<Params>;
  /** What this step does, in one line for people. */
  describe(params: Params, before: Shape): string;
  /** The shape behind the step. @throws bad-span, not-legal when it cannot be done. */
  shape(before: Shape, params: Params): Shape;
  /** Where frames land, for loops and markers; left out where they stay. */
  place?(before: Shape, params: Params): Place;
  /** Steps that depend on the whole sound take their figure from a pass of their own. */
  measure?(pcm: PcmStream, params: Params): Promise<Figure>;
  apply(pcm: PcmStream, params: Params, context: StepContext<Figure>): PcmStream;
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
