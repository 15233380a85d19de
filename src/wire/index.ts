/** The shapes that travel between server and browser. Types only: both sides share them, neither owns code here. */
import type { Choices } from '@/core/brief/plan';
import type { Finding } from '@/core/brief/types';
import type { Verification } from '@/core/convert';
import type { ErrorFacts } from '@/core/errors';
import type { Warning } from '@/core/formats/types';
import type { RawDescription } from '@/core/formats/raw/reader';
import type { LeftOutReason } from '@/core/collect/arrivals';
import type { Join, PlacedPart } from '@/core/join/plan';
import type { Levels } from '@/core/measure/level';
import type { ListedFacts } from '@/core/measure/probe';
import type { Worry } from '@/core/measure/worries';
import type { Recipe, Shape } from '@/core/recipe/types';
import type { Tempo } from '@/core/tempo';

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
  facts: ListedFacts | null;
  /** How the source is read when it has no header. */
  raw: RawDescription | null;
  warnings: Warning[];
  /** What its reader and its measures give reason to worry about. */
  worries: ListedWorry[];
  /** Why its recipe cannot be followed on its source. */
  recipeProblem: ErrorFacts | null;
  /** Groups from outer to inner, joined with "/"; "" for none. */
  group: string;
  labels: string[];
  note: string;
  /** Folder or archive that the file stood in; "" where none is known. */
  folder: string;
  /** The sound that this file may replace, while nobody has decided. */
  replaces: number | null;
  /** Bars and beats, where somebody has set them. */
  tempo: Tempo | null;
  /** For a sound that was joined of others: of which, and how. */
  join: Join | null;
  /** What its present source was joined of. */
  joined: Joined | null;
  /** The small picture of the list; null for sounds that were read before there was one. */
  thumbnail: string | null;
  revision: number;
}

/** What a joined sound was made of when it was made. */
export interface Joined {
  /** Tells whether it is still what its parts would make. */
  key: string;
  placed: Pick<PlacedPart, 'name' | 'startFrame' | 'frames'>[];
}

export interface ListedWorry extends Worry {
  state: 'open' | 'cured' | 'set-aside';
  /** Why it was set aside. */
  note?: string;
}

/** A worry that somebody has looked at and let be, for these bytes. */
export interface SetAside {
  code: string;
  note: string;
  sourceSha256: string;
}

/** What was measured on a sound behind a recipe. */
export interface ShapedLevels extends Shape, Pick<Levels, 'peakDbfs' | 'rmsDbfs' | 'correlation'> {
  /** Only after a thorough measuring. */
  truePeakDbtp: number | null;
  lufs: number | null;
}

/** A click that was found, in the sound in front of the declick. */
export interface ClickPlace {
  channel: number;
  startFrame: number;
  frames: number;
}

/** What people can change of a sound, alone or of many at once. */
export interface SoundEdit {
  soundId: number;
  name?: string;
  group?: string;
  labels?: string[];
  note?: string;
  tempo?: Tempo | null;
  removed?: boolean;
}

/** One change in the history of a sound. */
export interface HistoryEntry extends NamedChange {
  madeAt: string;
  undone: boolean;
}

/** A recipe that was saved under a name; its frames are of the rate. */
export interface SavedRecipe {
  id: number;
  name: string;
  recipe: Recipe;
  rateHz: number;
  savedAt: string;
}

/** What came of applying a recipe to many sounds. */
export interface Applied extends Changed {
  failed: { soundId: number; name: string; message: string }[];
}

/** What became of a file that came in. */
export type ArrivalOutcome =
  | 'waiting'
  | 'unpacking'
  | 'reading'
  | 'offered'
  | 'differs'
  | 'added'
  | 'unpacked'
  | 'already'
  | 'replaced'
  | 'left-out'
  | 'failed'
  | 'cancelled';

/** One file of an act of bringing in. */
export interface Arrival {
  id: number;
  /** With its folders, as it was told. */
  path: string;
  bytes: number;
  outcome: ArrivalOutcome;
  reason: LeftOutReason | null;
  error: ErrorFacts | null;
  soundId: number | null;
  soundName: string | null;
}

/** Everything that was brought in and has not been dismissed. */
export interface Intake {
  counts: Partial<Record<ArrivalOutcome, number>>;
  leftOut: { reason: LeftOutReason; count: number; examples: string[] }[];
  /** The first of those that somebody should read or decide: failed, already here, differing, offered. */
  shown: Arrival[];
}

/** A change by what tells it from others, and in words. */
export interface NamedChange {
  id: number;
  title: string;
}

/** What undo and redo would do next; null for nothing. */
export interface History {
  undo: NamedChange | null;
  redo: NamedChange | null;
}

/** What was undone or done again, and what would be next. */
export interface Gone extends History {
  title: string | null;
}

/** What came of changing sounds. */
export interface Changed {
  /** How many are other than before. */
  changed: number;
  /** The step of the history that this was; null for none. */
  changeId: number | null;
  /** What the next change can be made on. */
  revision: number;
}

/** What a clean-up would free. */
export interface Waste {
  removedSounds: number;
  replacedSources: number;
  bytes: number;
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
  findings: Finding[];
  /** What will be done for each of the brief's files, in words. */
  plans: { fileId: string; steps: string[] }[];
  /** Why it cannot be built yet. */
  obstacle: ErrorFacts | null;
  outputs: (Output & { upToDate: boolean })[];
}

export type JobKind = 'read' | 'build' | 'unpack' | 'join';

/** A queued or running piece of work. */
export interface Job {
  id: number;
  projectId: number;
  kind: JobKind;
  /** The sound that is read or joined, the output that is made, or the arrival that is unpacked. */
  subjectId: number;
  state: 'queued' | 'running';
  /** 0 … 1 */
  progress: number;
  /** How often it brought down what it ran in. */
  attempts: number;
  /** It runs apart, because something fell over while it was at work. */
  isSuspect: boolean;
  createdAt: string;
}

/** What a project's listeners are told. */
export type ProjectEvent =
  { kind: 'changed' } | { kind: 'progress'; jobId: number; progress: number };

/** How a project's table of sounds is laid out; see the screen that shows it. */
export type TableLayout = Record<string, unknown>;

/** Everything that the stations show of a project. */
export interface ProjectState {
  project: Project;
  sounds: Sound[];
  lines: PackLine[];
  jobs: Job[];
  intake: Intake | null;
  history: History;
  layout: TableLayout;
  revision: number;
}

/** What is other than at an earlier revision. A sound changes with everything that hangs on it. */
export interface ProjectNews extends Omit<ProjectState, 'sounds' | 'layout'> {
  changed: Sound[];
  /** Ids of sounds that are in no list any more. */
  gone: number[];
  /** Of the changed sounds: all that they have now. */
  lines: PackLine[];
}
