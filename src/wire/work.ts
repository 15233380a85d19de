import type { Word } from '@/core/words';

export type { WorkState } from '@/core/brief/cell';

/** A queued or running piece of work. */
export interface Job {
  id: number;
  projectId: number;
  /** One of the server's list of kinds. */
  kind: string;
  /** What it works on; the kind says what that is. */
  subjectId: number;
  state: 'queued' | 'running';
  /** Where it comes among others: the lowest first. */
  rank: 0 | 1 | 2 | 3 | 4;
  /** 0 … 1 */
  progress: number;
  /** How often it brought down what it ran in. */
  attempts: number;
  /** It runs apart, because something fell over while it was at work. */
  isSuspect: boolean;
  createdAt: string;
}

/** How much work of a kind is open, with words for it: what is done to what, as in "reading" and "sound". */
export interface WorkCount {
  kind: string;
  verb: string;
  noun: Word;
  /** Queued and running. */
  open: number;
}

/** What a project's listeners are told. */
export type ProjectEvent =
  { kind: 'changed' } | { kind: 'progress'; jobId: number; progress: number };
