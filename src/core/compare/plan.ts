import type { EncodingPlan } from '../encoding';
import { checkedSettings, writerById } from '../formats/write';
import type { ListedFacts } from '../measure/probe';
import { oneOffOf } from '../oneOff/plan';
import type { Change } from '../oneOff/change';
import type { Recipe, Shape } from '../recipe/types';
import type { Candidate } from './candidates/candidate';

/** How one candidate is made of one sound, and what it is held against. */
export interface TrialPlan {
  plan: EncodingPlan;
  /** Complete. */
  settings: object;
  /**
   * What the decoded file is compared with: the sound with as many channels, at its own rate. Channels are a choice,
   * and no fault of the codec; what a lower rate cuts off is heard.
   */
  reference: Recipe;
  /** Of the file. */
  shape: Shape;
  /** What cannot stay as the source has it. */
  changes: Change[];
}

/**
 * Plans a trial; what the format cannot hold goes to the nearest that it can.
 * @throws not-legal and bad-setting for what was asked for and cannot be
 */
export function planTrial(
  sound: { sourceSha256: string; facts: ListedFacts; recipe: Recipe },
  { writer, settings, rateHz, channels }: Candidate,
): TrialPlan {
  const { plan, shape, changes } = oneOffOf(sound, { writer, settings, rateHz, channels });
  const { rateHz: hz, channelCount } = shape;
  const complete = checkedSettings(writerById(writer), plan.settings, hz, channelCount);
  const own = sound.recipe.steps.length;
  const steps = plan.recipe.steps.filter(({ kind }, i) => i < own || kind !== 'resample');
  return { plan, settings: complete, shape, changes, reference: { ...plan.recipe, steps } };
}
