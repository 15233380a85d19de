import type { Facts } from '../measure/probe';

/** met: nothing to do · convert: Bijou does it · decide: a person must choose · cannot: no way. */
export type Verdict = 'met' | 'convert' | 'decide' | 'cannot';

/** One line of holding a sound, or a finished file, against a brief. */
export interface Finding {
  /** Which of the brief's files it is about. */
  fileId: string;
  requirement: string;
  verdict: Verdict;
  found: string;
  wanted: string;
  /** Why, in words that a beginner understands. */
  sentence: string;
}

/** The facts that briefs look at. */
export type CheckedFacts = Pick<
  Facts,
  'container' | 'codec' | 'sampleRateHz' | 'channels' | 'bitDepth' | 'seconds' | 'bytes'
> & {
  correlation?: number | null;
  speakers?: Facts['speakers'];
  /** How far the loudest sample lies above full scale, in dB; left out where nobody has looked. */
  overDb?: number | undefined;
};
