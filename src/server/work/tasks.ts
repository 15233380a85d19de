import type { EncodingPlan } from '@/core/encoding';
import type { ErrorFacts } from '@/core/errors';
import type { RawDescription } from '@/core/formats/raw/reader';
import type { Join, PartFacts, PlacedPart } from '@/core/join/plan';
import type { Probed } from '@/core/measure/probe';
import type { Loop } from '@/core/marks';
import type { Recipe, Shape } from '@/core/recipe/types';
import type { Call, PathVariant } from '@/core/pack/calls/calls';
import type { BodyName } from '../bodies';
import type { MadeFile } from '../db/encodings';
import type { PackSource } from './packSource';

/** Reads a file: its facts and, where it is to be looked at, its peak pyramid. */
export interface ReadTask {
  kind: 'read';
  source: string;
  raw: RawDescription | null;
  /** Where its pyramid is left; null where nobody is going to look at it. */
  peaks: string | null;
  /** Whether it is asked at which speed a voice speaks. */
  voice?: boolean;
}

/** Decodes a long sound into a copy that can be read from any frame on. */
export interface CopyTask {
  kind: 'copy';
  source: string;
  raw: RawDescription | null;
  /** As they were counted; null to believe the header. */
  frames: number | null;
  output: string;
}

/** Makes one file and decodes it again. */
export interface EncodeTask extends Omit<EncodingPlan, 'sourceSha256'> {
  kind: 'encode';
  source: string;
  raw: RawDescription | null;
  sourceShape: Shape;
  output: string;
}

/** Joins sounds into one WAV file and reads it. */
export interface JoinTask {
  kind: 'join';
  join: Join;
  /** Each as plain WAV, or short: the source itself or its working copy. */
  parts: { source: string; raw: RawDescription | null; facts: PartFacts }[];
  output: string;
  peaks: string;
}

/** Reads a sound behind its recipe, to find out what comes of it. */
export interface OutcomeTask {
  kind: 'outcome';
  source: string;
  raw: RawDescription | null;
  sourceShape: Shape;
  recipe: Recipe;
}

/** Holds a finished file against its sound. */
export interface TrialTask {
  kind: 'trial';
  source: string;
  raw: RawDescription | null;
  sourceShape: Shape;
  /** The sound's steps as far as the file is held against them. */
  reference: Recipe;
  /** Behind those. */
  loop: Loop | null;
  file: string;
  fileRaw: RawDescription | null;
  /** Of the file, which was measured when it was made. */
  truePeakDbtp: number | null | undefined;
}

/** Measures what decoding some files costs. */
export interface DecodingTask {
  kind: 'decoding';
  runs: number;
  files: {
    path: string;
    raw: RawDescription | null;
    writer: string;
    settings: object;
  }[];
}

/** Brings a destination's pack, as it would be now, to its host. */
export interface RehearseTask {
  kind: 'rehearse';
  hostId: string;
  /** What the pack is called. */
  name: string;
  source: PackSource;
  /** How many files it has at most. */
  files: number;
}

/** Lays out a pack: its paths, its texts, its icon, and everything that is wrong with it. */
export interface PlanTask {
  kind: 'plan';
  source: PackSource;
  /** Whether the bytes of texts and icons are answered, too; with `texts` those alone are. */
  content: 'all' | 'texts' | 'none';
}

/** Lays out a pack and puts it into words. */
export interface OutlineTask {
  kind: 'outline';
  source: PackSource;
  /** The newest pack of the same destinations, with the digest of its files. */
  newest: { id: number; digest: string | null } | null;
}

/** Looks at an index of calls, or any JSON that names files. */
export interface IndexTask {
  kind: 'index';
  /** The text itself, or the body of the request in which it stands. */
  text: string | Uint8Array;
  /** Paths of the files that there are. */
  there: string[];
  /** Those of them that need not be named. */
  slots: string[];
  /** Of ids. */
  characters: string;
}

/** What was found in an index. */
export interface LookedIndex {
  /** As JSON in UTF-8: it may be long, and is only handed on. */
  report: Uint8Array;
  /** Its calls, where they are to take the place of those that are here. */
  calls: Call<PathVariant>[] | null;
  isTakenOver: boolean;
}

/** Reads a long body of a request and holds it against its schema. */
export interface BodyTask {
  kind: 'body';
  name: BodyName;
  bytes: Uint8Array;
}

/** Draws an icon, or checks one that was given. */
export interface IconTask {
  kind: 'icon';
  given: Uint8Array | null;
  title: string;
  sizes: number[];
}

export type Task =
  | ReadTask
  | CopyTask
  | EncodeTask
  | JoinTask
  | OutcomeTask
  | TrialTask
  | DecodingTask
  | RehearseTask
  | PlanTask
  | OutlineTask
  | IndexTask
  | IconTask
  | BodyTask;

/** What timers can count to. */
const LONGEST_MS = 2 ** 31 - 1;
/** Any task may take this long. */
const LEAST_MS = 120_000;
/** How slow a machine may be: so many bytes of a file a second, and how much longer than a sound one pass over it. */
const LEAST_BYTES_A_SECOND = 20_000;
const SLOWEST_PASS = 0.5;

type TaskOf<Kind extends Task['kind']> = Extract<Task, { kind: Kind }>;

/** What each kind may take beside, by the bytes of its file. Steps may need a pass each. */
const neededMs: { [Kind in Task['kind']]: (task: TaskOf<Kind>, bytes: number) => number } = {
  read: (_, bytes) => (bytes / LEAST_BYTES_A_SECOND) * 1_000,
  copy: (_, bytes) => (bytes / LEAST_BYTES_A_SECOND) * 1_000,
  encode: ({ sourceShape, recipe }) => passMs(sourceShape) * (2 + recipe.steps.length),
  outcome: ({ sourceShape, recipe }) => passMs(sourceShape) * (2 + recipe.steps.length),
  trial: ({ sourceShape, reference }) => passMs(sourceShape) * (3 + reference.steps.length),
  // Each run takes a second at most, on a machine that is slow beyond reason.
  decoding: ({ files, runs }) => files.length * (runs + 2) * 1_000,
  join: ({ parts }) =>
    parts.reduce(
      (sum, { facts }) => sum + passMs(facts.shape) * (2 + facts.recipe.steps.length),
      0,
    ),
  // Sounds are looked at without being decoded.
  rehearse: ({ files }) => files * 100,
  plan: () => 0,
  outline: () => 0,
  index: () => 0,
  body: () => 0,
  icon: () => 0,
};

/** How long a task may take: the more there is to do, the longer. */
export function mostMs(task: Task, bytes: number): number {
  const needed = neededMs[task.kind] as (task: Task, bytes: number) => number;
  return Math.min(LONGEST_MS, Math.ceil(LEAST_MS + needed(task, bytes)));
}

function passMs({ frames, rateHz }: Shape): number {
  return (frames / rateHz) * SLOWEST_PASS * 1_000;
}

export interface JoinResult extends ReadResult {
  sha256: string;
  bytes: number;
  placed: PlacedPart[];
}

export interface ReadResult extends Probed {
  /** The picture that lists show. */
  thumbnail: string;
}

export type EncodeResult = MadeFile;

/** What a worker answers. Errors travel as data: a class does not survive the way between threads. */
export type Answer<Result> = { ok: true; result: Result } | { ok: false; error: ErrorFacts };
