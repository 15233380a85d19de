import { LOUDNESS_POWER } from './ear/span';
import { streamOf, type PcmSource } from '../pcm/source';
import { active, applyRecipe } from '../recipe/recipe';
import type { Recipe, StepTools } from '../recipe/types';

/** Channels that have nothing in common lose so much when they are mixed: that is no fault. */
const UNRELATED_DB = 10 * Math.log10(1 / 2);

/** The share of loudness that mixing has cancelled, 0 to 1. */
export function cancelledShare(mixdownLossDb: number | null): number {
  const beyondDb = Math.min(0, (mixdownLossDb ?? 0) - UNRELATED_DB);
  return 1 - 10 ** ((LOUDNESS_POWER * beyondDb) / 10);
}

/** What is left of a sound that cancels altogether, in dB. */
const LEAST_DB = -120;

/**
 * By how much mixing two channels leaves less than each of them is, in dB, 0 or below; null where a recipe mixes none, or
 * there is silence.
 */
export async function mixdownLossOf(
  source: PcmSource,
  recipe: Recipe,
  tools: StepTools,
): Promise<number | null> {
  const steps = active(recipe);
  const at = steps.findLastIndex(
    ({ kind, params }) => kind === 'channels' && params['mode'] === 'mix',
  );
  if (at < 0) return null;
  const shaped = await applyRecipe({ ...recipe, steps: steps.slice(0, at) }, source, tools);
  if (shaped.channelCount !== 2) return null;
  let [sides, mixed] = [0, 0];
  for await (const [left, right] of streamOf(shaped).blocks) {
    for (let i = 0; i < left!.length; i++) {
      const [l, r] = [left![i]!, right![i]!];
      sides += (l * l + r * r) / 2;
      mixed += ((l + r) / 2) ** 2;
    }
  }
  if (sides === 0) return null;
  return Math.max(LEAST_DB, 10 * Math.log10(mixed / sides + 1e-12));
}
