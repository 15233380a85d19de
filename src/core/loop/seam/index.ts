import type { Stretch } from '../../marks';
import type { PcmSource } from '../../pcm/source';
import { plainNumber, signedDb } from '../../tradeNames';
import { checkLoop } from '../limits';
import { dipDb } from './dip';
import { loudnessDifference } from './loudness';
import { sidesOf, type Sides } from './sides';
import { NO_STEP_DB, seamSteps, type SeamSteps } from './steps';
import { timbreDifference } from './timbre';

export { sidesOf, type Sides } from './sides';

/** What can be measured on a seam. */
export interface SeamParts extends SeamSteps {
  /** How much louder it is behind the seam than in front of it. */
  loudnessDifferenceLu: number;
  /** 0 (alike) to 1 (nothing in common). */
  timbreDifference: number;
  /** How far the level falls at the seam, beyond what it does elsewhere; left out where nobody has looked. */
  dipDb?: number;
}

export interface SeamFigures extends SeamParts {
  /** 0 to 100: how little one hears the seam. */
  score: number;
}

/** So much of both sides is measured. */
const SIDE_SECONDS = 0.5;

/** Fewest frames of a side, so that the slowest rate has some too. */
const LEAST_FRAMES = 64;

export function sideFrames(rateHz: number): number {
  return Math.max(LEAST_FRAMES, Math.round(SIDE_SECONDS * rateHz));
}

/** Measures the seam of a loop. @throws bad-span for a loop that is none */
export async function measureSeam(source: PcmSource, loop: Stretch): Promise<SeamFigures> {
  checkLoop(loop, source);
  return seamFigures(await sidesOf(source, loop, sideFrames(source.rateHz)));
}

/** Measures a seam by its sides. */
export function seamFigures(sides: Sides): SeamFigures {
  const parts: SeamParts = {
    ...seamSteps(sides),
    loudnessDifferenceLu: rounded(loudnessDifference(sides), 2),
    timbreDifference: rounded(timbreDifference(sides), 3),
    dipDb: rounded(dipDb(sides), 1),
  };
  parts.levelStepDb = rounded(parts.levelStepDb, 2);
  parts.slopeStepDb = rounded(parts.slopeStepDb, 2);
  return { score: scoreOf(parts), ...parts };
}

function rounded(value: number, decimals: number): number {
  const scale = 10 ** decimals;
  return Math.round(value * scale) / scale;
}

/** One part of the score: what it leaves of it, and why, in a sentence. */
interface ScorePart {
  name: string;
  /** With its unit, for people. */
  value(parts: SeamParts): string;
  /** What it leaves of the score, 0 … 1. */
  keeps(parts: SeamParts): number;
  sentence: string;
}

/** From `from` dB, where it is not heard, slowly at first, to `to` dB, where it takes `most`. */
const ramp = (db: number, from: number, to: number, most: number) =>
  1 - most * Math.max(0, Math.min(1, (db - from) / (to - from))) ** 1.5;

const stepText = (db: number) => (db === NO_STEP_DB ? 'none' : signedDb(db));

/** What the score is made of. Each takes its share of what the others leave. */
export const scoreParts: readonly ScorePart[] = [
  {
    name: 'Step in level',
    value: ({ levelStepDb }) => stepText(levelStepDb),
    keeps: ({ levelStepDb }) => ramp(levelStepDb, -54, 14, 0.98),
    sentence:
      'How far the last and the first frame miss each other, against the level around; this is the click. ' +
      'What the sound jumps by all the time does not count.',
  },
  {
    name: 'Step in slope',
    value: ({ slopeStepDb }) => stepText(slopeStepDb),
    keeps: ({ slopeStepDb }) => ramp(slopeStepDb, -60, 6, 0.5),
    sentence:
      'How sharply the curve bends at the seam, against the level around; a bend is heard as a softer click.',
  },
  {
    name: 'Loudness',
    value: ({ loudnessDifferenceLu }) => `${signed(loudnessDifferenceLu)} LU`,
    keeps: ({ loudnessDifferenceLu }) => 1 / (1 + (loudnessDifferenceLu / 14) ** 2),
    sentence:
      'How much louder it is behind the seam than in front of it, over 50 to 500 ms; music may begin louder than it ends, a bed may not.',
  },
  {
    name: 'Dip',
    value: ({ dipDb: db = 0 }) => `${plainNumber(db, 1)} dB`,
    keeps: ({ dipDb: db = 0 }) => ramp(db, 3, 20, 0.8),
    sentence:
      'How far the level falls around the seam, beyond what it does elsewhere: sides of opposite polarity cancel in a crossfade.',
  },
  {
    name: 'Timbre',
    value: ({ timbreDifference: difference }) => `${plainNumber(difference * 100, 0)} %`,
    keeps: ({ timbreDifference: difference }) => 1 / (1 + (difference / 0.7) ** 2),
    sentence:
      'How differently the half seconds on both sides are coloured, from 0 % (alike) to 100 % (nothing in common).',
  },
];

function signed(value: number): string {
  return `${value > 0 ? '+' : ''}${plainNumber(value, 1)}`;
}

/** 100 times what all parts leave. */
function scoreOf(parts: SeamParts): number {
  const left = scoreParts.reduce((share, { keeps }) => share * keeps(parts), 1);
  return rounded(100 * left, 1);
}

/** What is left of 100 where a seam is heard as a click. */
const CLICKING = 0.65;

/** Whether a seam clicks, however different its sides are. */
export function clicks(parts: SeamParts): boolean {
  const [level, slope] = scoreParts;
  return level!.keeps(parts) * slope!.keeps(parts) < CLICKING;
}
