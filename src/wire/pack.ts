import type { CellState as JudgedState } from '@/core/brief/cell';
import type { Judged } from '@/core/brief/check';
import type { ExpectedBytes } from '@/core/brief/expected';
import type { Remedy } from '@/core/brief/fitting';
import type { ListedFacts } from '@/core/measure/probe';
import type { Choices } from '@/core/brief/choices';
import type { Finding } from '@/core/brief/types';
import type { Verification } from '@/core/convert';
import type { ErrorFacts } from '@/core/errors';
import type { Warning } from '@/core/formats/types';
import type { WorkState } from './work';

/** "This sound goes to this brief." */
export interface Assignment {
  id: number;
  soundId: number;
  briefId: string;
  choices: Choices;
}

/** `checking`: something was changed, and what that comes to is being worked out. */
export type CellState = JudgedState | 'checking';

/** One sound at one brief, as lists and counts need it. */
export interface Cell {
  /** Of the assignment. */
  id: number;
  soundId: number;
  briefId: string;
  state: CellState;
  /** Files of it that are finished and up to date, and those that are not. */
  finished: number;
  missing: number;
  /** What the finished ones come to. */
  bytes: number;
  /** Somebody has to decide about what lies above full scale. */
  clips: boolean;
  /** What its host said of these very files: why it refused them, empty where it took them; null for nothing. */
  rehearsed: string | null;
  /** Another one whenever something of it, or of what hangs on it, is other. */
  revision: number;
}

/** One finished file of a build, or one on its way. */
export interface Output {
  id: number;
  assignmentId: number;
  fileId: string;
  /** What is encoded for it; outputs that come to the same bytes share one. */
  encodingId: number;
  /** As it will lie in the pack, and with the folders inside of its destination. */
  name: string;
  path: string;
  /** Everywhere where it lies: in several slots, or there alone. */
  paths: readonly string[];
  state: WorkState;
  error: ErrorFacts | null;
  /** Whether it is what would be made now. */
  upToDate: boolean;
  /** These are null until the output is done. */
  sha256: string | null;
  verification: Verification | null;
  verdict: Judged | null;
  warnings: Warning[];
  /** That it has another level than was asked for, where the conversion changed it. */
  remark: string | null;
}

/** What will be made for one file of a brief. */
export interface PlannedFile {
  fileId: string;
  /** What will be done for it, in words. */
  steps: string[];
  /** Where it will lie inside of its destination. */
  path: string;
  /** It is handed on as it is. */
  isCopy: boolean;
  writer: string;
  settings: object;
  rateHz: number;
  channels: number;
  seconds: number;
  /** What goes and does not come back, in sentences. */
  losses: string[];
  /** What it will come to, concluded from what is known without reading it. */
  expected: ExpectedBytes;
}

/** What would make a file smaller that is too big, with what it would come to. */
export interface OfferedRemedy extends Remedy {
  fileId: string;
  bytes: number;
  isExact: boolean;
  fits: boolean;
}

/** A file that is made only to be heard. */
export interface Tryout {
  id: number;
  state: WorkState;
  error: ErrorFacts | null;
  sha256: string | null;
  facts: ListedFacts | null;
}

/** One line of Pack: an assignment, what it needs, and what has come of it. */
export interface PackLine {
  assignment: Assignment;
  findings: Finding[];
  plans: PlannedFile[];
  /** Why it cannot be built yet. */
  obstacle: ErrorFacts | null;
  outputs: Output[];
}
