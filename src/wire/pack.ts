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

/**
 * blocked: it cannot be built as things are · due: something is to be built · working: it is being built ·
 * failed: building it failed, or its brief would not take what came of it · built: all is there.
 */
export type CellState = 'blocked' | 'due' | 'working' | 'failed' | 'built';

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
  /** Somebody has to decide about what lies above full scale. */
  clips: boolean;
}

/** What a brief says of a finished file. */
export interface Verdict {
  accepted: boolean;
  findings: Finding[];
}

/** One finished file of a build, or one on its way. */
export interface Output {
  id: number;
  assignmentId: number;
  fileId: string;
  /** What is encoded for it; outputs that come to the same bytes share one. */
  encodingId: number;
  /** As it will lie in the pack. */
  name: string;
  state: WorkState;
  error: ErrorFacts | null;
  /** Whether it is what would be made now. */
  upToDate: boolean;
  /** These are null until the output is done. */
  sha256: string | null;
  verification: Verification | null;
  verdict: Verdict | null;
  warnings: Warning[];
  /** That it has another level than was asked for, where the conversion changed it. */
  remark: string | null;
}

/** One line of Pack: an assignment, what it needs, and what has come of it. */
export interface PackLine {
  assignment: Assignment;
  findings: Finding[];
  /** What will be done for each of the brief's files, in words. */
  plans: { fileId: string; steps: string[] }[];
  /** Why it cannot be built yet. */
  obstacle: ErrorFacts | null;
  outputs: Output[];
}
