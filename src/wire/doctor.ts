import type { Judged } from '@/core/brief/check';
import type { LabelDoubt } from '@/core/measure/labelDoubt';
import type { ListedFacts } from '@/core/measure/probe';

/** What one destination says of a file from elsewhere. */
export interface BriefVerdict extends Judged {
  briefId: string;
}

/** What was found in a file that somebody has shown to the doctor; nothing of it is kept. */
export interface Examined {
  fileName: string;
  facts: ListedFacts;
  /** What its reader had to say. */
  warnings: string[];
  /** Its ending says another format than it has; null where that is right. */
  misnamed: string | null;
  rateDoubt: LabelDoubt | null;
  /** Of every destination of the project. */
  verdicts: BriefVerdict[];
}
