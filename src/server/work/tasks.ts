import type { Brief } from '@/core/brief/schema';
import type { Verification } from '@/core/convert';
import type { ErrorFacts } from '@/core/errors';
import type { Warning } from '@/core/formats/types';
import type { RawDescription } from '@/core/formats/raw/reader';
import type { Join, PartFacts, PlacedPart } from '@/core/join/plan';
import type { Probed } from '@/core/measure/probe';
import type { Recipe, Shape } from '@/core/recipe/types';

/** Reads a source: its facts, its peak pyramid and, where needed, a copy that can be read anywhere. */
export interface ReadTask {
  kind: 'read';
  source: string;
  raw: RawDescription | null;
  peaks: string;
  workingCopy: string;
}

/** Makes one output and decodes it again. */
export interface BuildTask {
  kind: 'build';
  source: string;
  raw: RawDescription | null;
  sourceShape: Shape;
  /** The source is handed on as it is. */
  isCopy: boolean;
  recipe: Recipe;
  writer: string;
  settings: object;
  brief: Brief;
  fileId: string;
  output: string;
  peaks: string;
  workingCopy: string;
}

/** Joins sounds into one WAV file and reads it. */
export interface JoinTask {
  kind: 'join';
  join: Join;
  /** Each as plain WAV: the source itself or its working copy. */
  parts: { source: string; facts: PartFacts }[];
  output: string;
  peaks: string;
}

export type Task = ReadTask | BuildTask | JoinTask;

/** What timers can count to. */
const LONGEST_MS = 2 ** 31 - 1;
/** Any task may take this long. */
const LEAST_MS = 120_000;
/** How slow a machine may be: so many bytes of a file a second, and how much longer than a sound one pass over it. */
const LEAST_BYTES_A_SECOND = 20_000;
const SLOWEST_PASS = 0.5;

/** How long a task may take: the more there is to do, the longer. Steps may need a pass each. */
export function mostMs(task: Task, bytes: number): number {
  return Math.min(LONGEST_MS, Math.ceil(neededMs(task, bytes)));
}

function neededMs(task: Task, bytes: number): number {
  switch (task.kind) {
    case 'read':
      return LEAST_MS + (bytes / LEAST_BYTES_A_SECOND) * 1_000;
    case 'build':
      return LEAST_MS + passMs(task.sourceShape) * (2 + task.recipe.steps.length);
    case 'join':
      return task.parts.reduce(
        (sum, { facts }) => sum + passMs(facts.shape) * (2 + facts.recipe.steps.length),
        LEAST_MS,
      );
  }
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
  hasWorkingCopy: boolean;
  /** The picture that lists show. */
  thumbnail: string;
}

export interface BuildResult {
  sha256: string;
  verification: Verification;
  warnings: Warning[];
  /** How the file is read when it has no header. */
  raw: RawDescription | null;
  hasWorkingCopy: boolean;
}

/** What a worker answers. Errors travel as data: a class does not survive the way between threads. */
export type Answer<Result> = { ok: true; result: Result } | { ok: false; error: ErrorFacts };
