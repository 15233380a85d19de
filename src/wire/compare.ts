import type { NamedCandidate } from '@/core/compare/candidates/candidate';
import type { MeasuredTrial, TriedSound } from '@/core/compare/measured';
import type { TrialFigures } from '@/core/compare/trial';
import type { WorkFigures } from '@/core/compare/work';
import type { ErrorFacts } from '@/core/errors';
import type { Change } from '@/core/oneOff/change';
import type { WorkState } from './work';

/** What a run was measured on. */
export interface Machine {
  processor: string;
  cores: number;
  system: string;
  node: string;
  bijou: string;
}

/** A set of candidates: a ready one, or one that somebody keeps in a project. */
export interface NamedCandidateSet {
  /** Of a ready set its name; of one's own its number. */
  id: string | number;
  name: string;
  candidates: NamedCandidate[];
}

/** One candidate on one sound, as far as it is. */
export interface Trial {
  id: number;
  soundId: number;
  candidate: NamedCandidate;
  state: WorkState;
  /** 0 … 1, while it is being made and measured. */
  progress: number;
  error: ErrorFacts | null;
  /** What cannot stay as the source has it. */
  changes: Change[];
  /** Of its file, as soon as that is made. */
  bytes: number | null;
  /** null until it is measured. Without what only a closer look shows (`TrialDetails`). */
  measured: MeasuredTrial | null;
  /** The sound has another source or other steps by now. */
  isStale: boolean;
  /** Ids of the briefs whose file of this sound is made in the very same way. */
  usedIn: string[];
  /** The same in an earlier run. */
  before: { comparisonId: number; work: WorkFigures | null; bytes: number; grade: number } | null;
}

/** What a closer look at one trial shows. */
export interface TrialDetails {
  id: number;
  soundId: number;
  sound: TriedSound;
  candidate: NamedCandidate;
  figures: TrialFigures;
}

export interface ComparisonSummary {
  id: number;
  createdAt: string;
  soundIds: number[];
  /** Trials in all, those that are measured, and those that never will be. */
  trials: number;
  measured: number;
  failed: number;
}

/** One run of trials. */
export interface Comparison {
  id: number;
  createdAt: string;
  machine: Machine;
  runs: number;
  trials: Trial[];
  /** Measuring what decoding costs: null when that is over; else how far it is, 0 … 1. */
  workProgress: number | null;
}

/** What candidates can be taken from. */
export interface CandidateSets {
  ready: NamedCandidateSet[];
  own: NamedCandidateSet[];
  /** What each destination allows, those that are used first. */
  allowed: NamedCandidateSet[];
}
