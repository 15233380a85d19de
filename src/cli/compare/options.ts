import type { Candidate } from '@/core/compare/candidates/candidate';
import { builtinBriefs } from '@/core/brief/builtin';
import { allowedBy } from '@/core/compare/candidates/allowed';
import { setById } from '@/core/compare/candidates/sets';
import { candidateText, parseCandidate } from '@/core/compare/candidates/text';
import type { LoadSettings } from '@/core/compare/load';
import { loadLimits, usualLoad } from '@/core/compare/load';
import { numberOption, oneOutput, rateOption, wrong } from '../convert/numbers';

/** What a call of `compare` may ask for, as it was typed. */
export interface CompareOptions {
  candidates?: string;
  set: string;
  rate?: string;
  channels?: string;
  voices: string;
  runs: string;
  json?: boolean;
  csv?: boolean;
}

/** What a call of `reference` may ask for, as it was typed. */
export interface ReferenceOptions {
  out: string;
  seconds: string;
  rate: string;
  overwrite?: boolean;
}

/** A candidate with the text by which it was asked for. */
export interface AskedCandidate {
  text: string;
  candidate: Candidate;
}

export interface Asked {
  candidates: AskedCandidate[];
  load: LoadSettings;
  runs: number;
}

const MOST_RUNS = 1_000;

/** @throws wrong-call */
export function askedOf(options: CompareOptions): Asked {
  const { json, csv, channels } = options;
  oneOutput({ json, csv });
  const layout = channels === undefined ? undefined : layouts[channels];
  if (channels !== undefined && !layout) {
    throw wrong(`--channels cannot be "${channels}".`, 'Choose mono (mixed) or stereo.');
  }
  const all = { rateHz: rateOption('rate', options.rate), channels: layout };
  const voices = wholeOption('voices', options.voices, loadLimits.voices);
  return {
    candidates: candidatesOf(options).map(({ text, candidate }) => ({
      text,
      candidate: { ...candidate, ...all },
    })),
    load: { ...usualLoad, voices },
    runs: wholeOption('runs', options.runs, { min: 1, max: MOST_RUNS }),
  };
}

const layouts: Record<string, NonNullable<Candidate['channels']>> = {
  mono: 'mix',
  stereo: 'stereo',
};

/** Every brief that comes with Bijou is a set by its id. */
const ofBriefs = () =>
  builtinBriefs.map((brief) => ({ id: brief.id, name: brief.title, candidates: allowedBy(brief) }));

function candidatesOf({ candidates, set }: CompareOptions): AskedCandidate[] {
  if (candidates === undefined) {
    return setById(set, ofBriefs()).candidates.map((candidate) => ({
      text: candidateText(candidate),
      candidate,
    }));
  }
  const texts = candidates.split(',').map((text) => text.trim());
  return texts
    .filter((text, i) => text !== '' || texts.length === 1 || i < texts.length - 1)
    .map((text) => ({ text, candidate: parseCandidate(text) }));
}

function wholeOption(name: string, text: string, range: { min: number; max: number }): number {
  const value = numberOption(name, text, range)!;
  if (Number.isInteger(value)) return value;
  throw wrong(`--${name} cannot be ${text}.`, 'Give a whole number.');
}
