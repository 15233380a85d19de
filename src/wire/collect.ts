import type { LeftOutReason } from '@/core/collect/arrivals';
import type { ErrorFacts } from '@/core/errors';

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

/** What a clean-up would free. */
export interface Waste {
  removedSounds: number;
  replacedSources: number;
  /** Those of which nothing is the newest of its file any more. */
  earlierBuilds: number;
  removedPacks: number;
  bytes: number;
}

/** How a project's table of sounds is laid out; see the screen that shows it. */
export type TableLayout = Record<string, unknown>;
