import type { Demand } from '@/core/brief/demands';
import type { DemandPair } from '@/core/brief/edit';
import type { BriefText } from '@/core/brief/schema';

/** A brief as people read and write it. */
export interface BriefDetails {
  text: BriefText;
  demands: Demand[];
  /** Where it differs from the one it was asked to be held beside. */
  differences: DemandPair[];
}

/** What a brief would demand that somebody is writing. */
export interface BriefCheck {
  demands: Demand[];
  /** Paths of fields that this Bijou does not know. */
  unknown: string[];
}
