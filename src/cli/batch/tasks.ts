import type { TrialFigures } from '@/core/compare/trial';
import type { Conversion, Verification } from '@/core/convert';
import type { EncodingPlan } from '@/core/encoding';
import type { ErrorFacts } from '@/core/errors';
import type { SeamFigures } from '@/core/loop/seam';
import type { Loop, Stretch } from '@/core/marks';
import type { RawDescription } from '@/core/formats/raw/reader';
import type { Warning } from '@/core/formats/types';
import type { WholeLevels } from '@/core/measure/levels';
import type { ListedFacts } from '@/core/measure/probe';
import type { VoicePace } from '@/core/measure/voice/pace';
import type { Estimate } from '@/core/oneOff/estimate';
import type { Recipe, Shape } from '@/core/recipe/types';
import type { Place } from '../inputs';

/** What can be done with one file in a thread of its own: everything goes there and back as plain data. */
export type Task =
  | BuildTask
  | ProbeTask
  | LookTask
  | ConvertTask
  | MeasureTask
  | EstimateTask
  | SeamTask
  | TrialTask;

/** Reads a file to its end. */
export interface ProbeTask {
  kind: 'probe';
  place: Place;
  raw: RawDescription | undefined;
  /** Whether clicks are looked for. */
  clicks: boolean;
  /** Whether it is asked at which speed a voice speaks. */
  voice: boolean;
}

export interface Probed {
  facts: ListedFacts;
  warnings: Warning[];
  /** Of a voice at the wrong speed, where that was asked. */
  pace: VoicePace | null;
  /** By channel from 1, in frames. */
  clicks?: { channel: number; startFrame: number; frames: number }[];
}

/** Reads a file's headers, and its samples where only they tell its length. */
export interface LookTask {
  kind: 'look';
  place: Place;
  raw: RawDescription | undefined;
}

export interface Looked {
  shape: Shape;
  codec: string;
  bitDepth: number | null;
  bytes: number;
  /** The loop that the file states. */
  loop: Loop | null;
  warnings: Warning[];
  /** The state of the file that was looked at. */
  change: string;
}

/** How one result is made of a file. */
export interface Making extends Conversion {
  raw: RawDescription | undefined;
  frames: number;
  /** Where the seam of a loop lies in the result, where its format has no place for that. */
  loop?: Loop | null;
}

/** Writes a result, decodes it again and puts it in its place. */
export interface ConvertTask {
  kind: 'convert';
  place: Place;
  /** As in `Looked`. */
  change: string;
  making: Making;
  /** null: the result stays under its temporary name. */
  output: string | null;
  temporary: string;
  overwrite: boolean;
}

export interface Made {
  facts: ListedFacts;
  warnings: Warning[];
}

/** Finds how loud a file is behind its recipe. */
export interface MeasureTask {
  kind: 'measure';
  place: Place;
  making: Making;
}

/** Says what a result will come to. */
export interface EstimateTask {
  kind: 'estimate';
  place: Place;
  making: Making;
}

/** Measures the seam of a loop behind a recipe, in whose frames the loop is. */
export interface SeamTask {
  kind: 'seam';
  place: Place;
  raw: RawDescription | undefined;
  recipe: Recipe;
  /** Of the source. */
  frames: number;
  loop: Stretch;
  /** Where its tail ends and what it is changed by, to hear whether it has rung out. */
  tail: { endFrame: number; gainDb: number } | null;
}

export interface SeamFound {
  seam: SeamFigures;
  tailLeftDbfs: number | null;
}

/** Makes a candidate of a file and measures it. */
export interface TrialTask {
  kind: 'trial';
  place: Place;
  /** As in `Looked`. */
  change: string;
  making: Making;
  /** What it is held against. */
  reference: Recipe;
  loop: Loop | null;
  /** Where the result is left. */
  temporary: string;
}

export interface Tried {
  figures: TrialFigures;
  encodeMs: number;
  /** How the result must be read. */
  raw: RawDescription | undefined;
}

/** Makes a file by its plan, out of a stored source, and decodes it again. */
export interface BuildTask {
  kind: 'build';
  plan: EncodingPlan;
  source: string;
  raw: RawDescription | null;
  /** Of the source. */
  shape: Shape;
  /** Where the result is left. */
  temporary: string;
}

export interface Built extends BuiltFacts {
  sha256: string;
  bytes: number;
  warnings: Warning[];
}

/** What was found when it was decoded again. */
export type BuiltFacts = Pick<Verification, 'loudestDbfs' | 'loop'> & { facts: ListedFacts };

/** What comes of each kind of task. */
export interface Results {
  build: Built;
  probe: Probed;
  look: Looked;
  convert: Made;
  measure: WholeLevels;
  estimate: Estimate;
  seam: SeamFound;
  trial: Tried;
}

export type Answer<Result> = { ok: true; result: Result } | { ok: false; error: ErrorFacts };
