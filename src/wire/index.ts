/** The shapes that travel between server and browser. Types only: both sides share them, neither owns code here. */
import type { Choices } from '@/core/brief/plan';
import type { Brief } from '@/core/brief/schema';
import type { Finding } from '@/core/brief/types';
import type { Verification } from '@/core/convert';
import type { ErrorFacts } from '@/core/errors';
import type { Warning } from '@/core/formats/types';
import type { RawDescription } from '@/core/formats/raw/reader';
import type { Facts } from '@/core/measure/probe';
import type { Worry } from '@/core/measure/worries';
import type { Recipe } from '@/core/recipe/types';

export interface Project {
  id: number;
  name: string;
  createdAt: string;
}

export type SoundState = 'reading' | 'ready' | 'refused';

/** A sound with what is known of its source. */
export interface Sound {
  id: number;
  projectId: number;
  name: string;
  /** Name of the file as it came in. */
  fileName: string;
  sourceSha256: string;
  recipe: Recipe;
  state: SoundState;
  /** Why it was refused. */
  error: ErrorFacts | null;
  addedAt: string;
  removedAt: string | null;
  /** Of the source. */
  bytes: number;
  facts: Facts | null;
  /** How the source is read when it has no header. */
  raw: RawDescription | null;
  warnings: Warning[];
  /** What its measures give reason to worry about. */
  worries: Worry[];
}

/** "This sound goes to this brief." */
export interface Assignment {
  id: number;
  soundId: number;
  briefId: string;
  choices: Choices;
}

export type WorkState = 'queued' | 'running' | 'done' | 'failed' | 'cancelled';

/** One finished file of a build, or one on its way. */
export interface Output {
  id: number;
  buildId: number;
  assignmentId: number;
  fileId: string;
  outputKey: string;
  name: string;
  state: WorkState;
  error: ErrorFacts | null;
  /** These are null until the output is done. */
  sha256: string | null;
  verification: Verification | null;
  warnings: Warning[];
}

/** One line of Pack: an assignment, what it needs, and what has come of it. */
export interface PackLine {
  assignment: Assignment;
  brief: Brief;
  findings: Finding[];
  /** What will be done for each of the brief's files, in words. */
  plans: { fileId: string; steps: string[] }[];
  /** Why it cannot be built yet. */
  obstacle: ErrorFacts | null;
  outputs: (Output & { upToDate: boolean })[];
}

export type JobKind = 'read' | 'build';

/** A queued or running piece of work. */
export interface Job {
  id: number;
  projectId: number;
  kind: JobKind;
  /** The sound that is read, or the output that is made. */
  subjectId: number;
  state: WorkState;
  /** 0 … 1 */
  progress: number;
  attempts: number;
  createdAt: string;
  finishedAt: string | null;
}

/** What a project's listeners are told. */
export type ProjectEvent =
  { kind: 'changed' } | { kind: 'progress'; jobId: number; progress: number };

/** Everything that the stations show of a project. */
export interface ProjectState {
  project: Project;
  sounds: Sound[];
  lines: PackLine[];
  jobs: Job[];
}
