import type { ErrorFacts } from '../errors';
import type { Warning } from '../formats/types';
import { LevelMeter } from '../measure/level';
import { SHORTEST_LOOP } from '../loop/limits';
import { measureSeam, type SeamFigures } from '../loop/seam';
import { noMarks, type Marks } from '../marks';
import type { Facts } from '../measure/probe';
import { TruePeakMeter } from '../measure/truePeak';
import type { PcmSource } from '../pcm/source';
import { active, applyRecipe, kindOf, marksAfter, peakAtMost } from './recipe';
import type { Recipe } from './types';

/** What comes of a recipe on its source, as far as only reading all of it tells. */
export interface Outcome {
  /** null for silence, and where it need not be known: then it is not above full scale. */
  peakDbfs: number | null;
  truePeakDbtp: number | null;
  /** What its steps had to do that people should know. */
  notes: Warning[];
  /** Of the loop behind it; null where there is none, and where nobody has looked. */
  seam?: SeamFigures | null;
  /** Why a step cannot be done that measures first. */
  error: ErrorFacts | null;
}

/** The outcome of a recipe that surely does nothing that people should know. */
export const plainOutcome: Outcome = { peakDbfs: null, truePeakDbtp: null, notes: [], error: null };

/** Whether the outcome of a recipe can only be found by reading. `peakDbfs` is that of the source. */
export function hasToBeRead(recipe: Recipe, peakDbfs: number | null): boolean {
  const steps = active(recipe);
  if (steps.length === 0) return false;
  const hasSeam = steps.some((step) => kindOf(step)?.purpose === 'loop');
  return hasSeam || steps.some((step) => kindOf(step)?.measure) || peakAtMost(recipe, peakDbfs) > 0;
}

/**
 * Whether a step may find nothing that it can measure, which only reading tells: silence, or what is too short
 * to have a loudness.
 */
export function mayRefuse(recipe: Recipe, facts: Pick<Facts, 'peakDbfs' | 'lufs'>): boolean {
  return active(recipe).some((step, at) => {
    if (!kindOf(step)?.refuses?.(step.params)) return false;
    // In front of all others it measures what is known.
    return at > 0 || facts.peakDbfs === null || facts.lufs === null;
  });
}

/** Reads a sound behind its recipe. @throws not-legal when a step cannot be done that measures first. */
export async function readOutcome(
  recipe: Recipe,
  source: PcmSource,
  marks: Marks = noMarks,
): Promise<Outcome> {
  const notes: Warning[] = [];
  const shaped = await applyRecipe(recipe, source, { note: (warning) => notes.push(warning) });
  const level = new LevelMeter(shaped.channelCount);
  const truePeak = new TruePeakMeter(shaped.rateHz, shaped.channelCount);
  for await (const block of shaped.from(0)) {
    level.push(block);
    truePeak.push(block);
  }
  const { peakDbfs } = level.result();
  const { loop } = marksAfter(recipe, source, marks);
  const hasSeam = loop && !loop.isBackAndForth && loop.endFrame - loop.startFrame >= SHORTEST_LOOP;
  const seam = hasSeam ? await measureSeam(shaped, loop) : null;
  return { peakDbfs, ...truePeak.result(), notes, seam, error: null };
}
