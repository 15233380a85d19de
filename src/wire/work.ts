import type { Word } from '@/core/words';

export type WorkState = 'queued' | 'running' | 'done' | 'failed' | 'cancelled';

/** A queued or running piece of work. */
export interface Job {
  id: number;
  projectId: number;
  /** One of the server's list of kinds. */
  kind: string;
  /** What it works on; the kind says what that is. */
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

/** A job with words for it: what is done to what, as in "reading" and "sound". */
export interface ListedJob extends Job {
  verb: string;
  noun: Word;
}

/** What a project's listeners are told. */
export type ProjectEvent =
  { kind: 'changed' } | { kind: 'progress'; jobId: number; progress: number };
