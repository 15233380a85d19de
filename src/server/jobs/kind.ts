import type { ErrorFacts } from '@/core/errors';
import type { Word } from '@/core/words';
import type { Job } from '@/wire';
import type { Context } from '../context';
import type { DeletionService } from '../services/deleting';
import type { IntakeService } from '../services/intakes';
import type { JoinService } from '../services/joins';
import type { ListeningService } from '../services/listening';
import type { OutcomeService } from '../services/outcomes';
import type { PackingService } from '../services/packing';
import type { RehearsalService } from '../services/rehearsals';
import type { TryingService } from '../services/trying';
import type { RunOptions } from '../work/pool';
import type { Rank } from './ranks';

/**
 * Where jobs of a kind run. threads: in a worker thread, of which there are only so many · beside: one at a time,
 * beside the threads · alone: one at a time while nothing else is at work or waiting, for figures that other
 * work would spoil.
 */
export type Lane = 'threads' | 'beside' | 'alone';

/** What a job works with. */
interface JobTools extends RunOptions {
  /** A path that is removed when the job ends, however it ends. */
  temporary(): string;
  /**
   * Writes down what the job has made, in one breath with its end. Answers false where that counts no more: then
   * nothing is written, and nobody holds what was made.
   */
  commit(write: () => void): boolean;
}

/** How one kind of job is done and what is written down when it ends. */
export interface JobHandler {
  lane: Lane;
  isOvertaken?: boolean;
  /**
   * Everything outside of the job that decides what comes of it, as it is now; null where nobody wants that any more.
   * What a job comes to counts only as long as this is what it was when it began.
   */
  basis(job: Job): string | null;
  /** Marks the subject as being worked on. */
  start(job: Job): void;
  run(job: Job, tools: JobTools): Promise<void>;
  fail(job: Job, error: ErrorFacts): void;
  cancel(job: Job): void;
  /** Of very many that have not begun, all at once. */
  cancelAll?(jobs: readonly Job[]): void;
}

/** What kinds of jobs work for. */
export interface House {
  context: Context;
  trying: TryingService;
  deletions: DeletionService;
  intakes: IntakeService;
  joins: JoinService;
  listening: ListeningService;
  outcomes: OutcomeService;
  packing: PackingService;
  rehearsals: RehearsalService;
}

/** One kind of job: everything that Bijou knows about it. */
export interface JobKind {
  kind: string;
  /** Where it runs. */
  lane: Lane;
  /** Where it comes among others; usual unless said. */
  rank?: Rank;
  /** Others overtake it when it takes long: one slow file holds no others back. */
  isOvertaken?: true;
  /** What is done to what, for people: "reading" a "sound". */
  verb: string;
  noun: Word;
  /** Subjects that wait for a job of this kind: after a crash those without one get one again. */
  waiting?(house: House): { id: number; projectId: number }[];
  handler(house: House): Omit<JobHandler, 'lane' | 'isOvertaken'>;
}
