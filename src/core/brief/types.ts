import type { Loop, Tags } from '../marks';
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

/** The facts that briefs look at. What is left out nobody has looked at, and it is not judged. */
export type CheckedFacts = Pick<
  Facts,
  'container' | 'codec' | 'sampleRateHz' | 'channels' | 'bitDepth' | 'seconds' | 'bytes'
> & {
  correlation?: number | null;
  speakers?: Facts['speakers'];
  bitRateKbps?: number;
  /** The bit rate that a file keeps all the time, in kbit/s; null for one that varies. */
  constantKbps?: number | null;
  /** How far the loudest sample lies above full scale, in dB. */
  overDb?: number | undefined;
  truePeakDbtp?: number | null | undefined;
  lufs?: number | null | undefined;
  loop?: Loop | null;
  /** Whether the file itself says where it repeats; so unless something else is said. */
  isLoopInFile?: boolean;
  /** 0 to 100; null where nobody can say. */
  seamScore?: number | null | undefined;
  tags?: Tags;
  /** Those that it is to have, where that is known. */
  wantedTags?: Tags | undefined;
  language?: string | null;
  /** With its ending. */
  fileName?: string;
};
