import type { Brief, BriefFile } from '../schema';
import type { CheckedFacts, Finding } from '../types';

export type Judgement = Omit<Finding, 'requirement' | 'fileId'>;

/** One thing that a brief can demand. */
export interface Requirement {
  id: string;
  /** When it can be said: of a sound that is still to be converted, of a finished file, or of both. */
  isOfFinished?: true;
  isAhead?: true;
  /** `null` where the brief demands nothing. */
  judge(facts: CheckedFacts, file: BriefFile, brief: Brief): Judgement | null;
}

export function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
