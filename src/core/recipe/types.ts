import type { ObjectSchema } from 'yup';
import type { Warning } from '../formats/types';
import type { Loop, Place, SoundMarks } from '../marks';
import type { PcmStream } from '../pcm/pcm';
import { maskOf, type Speaker } from '../pcm/speakers';
import type { PcmSource } from '../pcm/source';

/** The outer shape of a sound: what steps change besides the samples themselves. */
export interface Shape {
  rateHz: number;
  channelCount: number;
  frames: number;
  /** As in `PcmStream`. */
  speakerMask?: number | undefined;
}

/** Those facts of a sound that make its shape. */
interface ShapeFacts {
  sampleRateHz: number;
  channels: number;
  frames: number;
  speakers: readonly Speaker[] | null;
  speakerMask: number;
}

/** The shape of a sound whose facts are known. */
export function shapeOf(facts: ShapeFacts): Shape {
  const { sampleRateHz: rateHz, channels: channelCount, frames, speakers, speakerMask } = facts;
  // Facts of an older Bijou name the speakers alone.
  return { rateHz, channelCount, frames, speakerMask: speakerMask || maskOf(speakers) };
}

/** What steps may use beside the sound itself. */
export interface StepTools {
  /** Takes what people should know of what a step did. */
  note(warning: Warning): void;
  /**
   * Answers the figure that was measured before for the same steps on the same sound, or measures it.
   * `steps` names the steps up to and with the one that measures.
   */
  figure?<Figure>(steps: string, measure: () => Promise<Figure>): Promise<Figure>;
}

export const plainTools: StepTools = { note: () => undefined };

interface StepContext<Figure> {
  /** What `measure` found. */
  figure: Figure;
  tools: StepTools;
}

/** One thing about a step that people set. */
export type StepField = {
  /** Of the parameter. */
  name: string;
  label: string;
  /** Another parameter and its value with which alone this one means something. */
  when?: readonly [name: string, value: unknown];
} & (
  | { type: 'place' }
  | { type: 'length' }
  | { type: 'rate' }
  | { type: 'number'; unit: string; min: number; max: number; isOptional?: boolean }
  | { type: 'choice'; options: readonly { value: string; label: string }[] }
);

/** What a step is for; menus group by it. */
export type StepPurpose = 'length' | 'level' | 'channels' | 'repair' | 'time' | 'loop';

/** One kind of step: everything that Bijou knows about it. */
export interface StepKind<Params extends object = Record<string, unknown>, Figure = unknown> {
  kind: string;
  /** Name on the screen. */
  name: string;
  purpose: StepPurpose;
  /** What it is good for, in one line for people who choose. */
  hint: string;
  params: ObjectSchema<Params>;
  fields: readonly StepField[];
  /** A new step begins switched off, so that people see what it would change before it does. */
  beginsOff?: true;
  /** What a new step of this kind begins with. */
  defaults(before: Shape): Params;
  /** What this step does, in one line for people. */
  describe(params: Params, before: Shape): string;
  /** The shape behind the step. @throws bad-span, not-legal when it cannot be done. */
  shape(before: Shape, params: Params): Shape;
  /** Where frames land, for loops, markers and pictures; left out where they stay. */
  place?(before: Shape, params: Params): Place;
  /** The marks behind the step, given those that were moved along; left out where it sets none. */
  marks?(moved: SoundMarks, params: Params): SoundMarks;
  /** Where a frame behind the step came from; left out with `place`. */
  origin?(before: Shape, params: Params): (frame: number) => number;
  /** How loud a frame in front of the step is left, 0 … 1, where that changes over time; for pictures. */
  envelope?(before: Shape, params: Params): (frame: number) => number;
  /**
   * The most that the sample peak can be behind it, in dBFS, where that can be said without reading; left out
   * where it cannot.
   */
  peakAtMost?(beforeDbfs: number, params: Params): number;
  /** Whether it cannot be done on a sound in which it finds nothing to measure. */
  refuses?(params: Params): boolean;
  /** What else is set when somebody sets one parameter. */
  along?(params: Params, name: string): Params;
  /** Whether it goes into the sound in several places: what is decoded only in order is put aside for it. */
  rereads?(params: Params, loop: Loop | null): boolean;
  /** Steps that depend on the whole sound take their figure from a pass of their own. */
  measure?(pcm: PcmStream, params: Params): Promise<Figure>;
  apply(source: PcmSource, params: Params, context: StepContext<Figure>): PcmSource;
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
