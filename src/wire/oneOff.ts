import type { ErrorFacts } from '@/core/errors';
import type { Handover } from '@/core/loop/handover';
import type { Change } from '@/core/oneOff/change';
import type { Dial } from '@/core/formats/types';
import type { OneOffWish } from '@/core/oneOff/plan';
import type { ListedFacts } from '@/core/measure/probe';
import type { WorkState } from './work';

/** What would become of one sound. */
export interface OneOffOutlook {
  soundId: number;
  /** Why it cannot be made. */
  error: ErrorFacts | null;
  changes: Change[];
  /** What the format has no place for. */
  lost: string | null;
  /** How far it would lie above full scale. */
  overDb: number | null;
  /** Of the finished file. */
  seconds: number;
  /** Bytes a second that such files usually come to, least and most; null where they will be counted. */
  usual: readonly [least: number, most: number] | null;
}

/** What would become of all, with what may be set for all of them. */
export interface OneOffOutlooks {
  sounds: OneOffOutlook[];
  dials: readonly Dial[];
}

/** One file of a conversion: done, or on its way. */
export interface OneOffFile {
  id: number;
  soundId: number;
  name: string;
  state: WorkState;
  error: ErrorFacts | null;
  changes: Change[];
  /** What its encoding had to say. */
  warnings: string[];
  /** 0 … 1, while it is being made. */
  progress: number;
  sourceBytes: number;
  /** Of the finished file; null until it is done. */
  facts: ListedFacts | null;
  sha256: string | null;
}

/** A conversion without a destination, with its files. */
export interface OneOffSet {
  id: number;
  wish: OneOffWish;
  /** Set where its files belong to one loop. */
  handover: Handover | null;
  createdAt: string;
  files: OneOffFile[];
}
