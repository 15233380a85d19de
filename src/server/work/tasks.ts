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
  hasWorkingCopy: boolean;
}

/** What a worker answers. Errors travel as data: a class does not survive the way between threads. */
export type Answer<Result> = { ok: true; result: Result } | { ok: false; error: ErrorFacts };
