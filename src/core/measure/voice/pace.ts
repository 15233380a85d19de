import { voiceModel, type VoiceModel } from './model';
import type { VoiceTraits } from './traits';

/** What a voice sounds like: as labelled twice as fast as it was, or half as fast. */
export type VoicePace = 'double' | 'half';

/** What the model tells apart, in its order. */
const classes = ['half', 'right', 'double', 'other'] as const;
type Likelihoods = Record<(typeof classes)[number], number>;

/** How sure it has to be before it is said: voices are sped up on purpose, too. */
const SURE = 0.9;
/** Below this the other reading is not worth its time. */
const POSSIBLE = 0.05;

/**
 * Says it where a sound is like a voice at twice or half its speed, and like one at its own speed once it is read at the
 * rate that would be right then.
 * @param read Gives the traits at so many times the labelled rate; null where they cannot be had.
 */
export function voicePace(
  read: (factor: number) => VoiceTraits | null,
  model: VoiceModel = voiceModel,
): VoicePace | null {
  const reading = (factor: number) => {
    const traits = read(factor);
    return traits && likelihoods(traits, model);
  };
  const own = reading(1);
  if (!own) return null;
  for (const [pace, opposite, factor] of [
    ['double', 'half', 0.5],
    ['half', 'double', 2],
  ] as const) {
    if (own[pace] < POSSIBLE) continue;
    const cured = reading(factor);
    if (!cured) continue;
    const yes = own[pace] * cured.right;
    const no = own.right * cured[opposite] + own.other * cured.other;
    if (yes / (yes + no) > SURE) return pace;
  }
  return null;
}

/**
 * How likely it is that a sound with such traits is a voice, as fast as people speak or faster, 0 to 1; null traits are
 * none. What rings for long, as bells do, is often taken for a slow one.
 */
export function voiceLikelihood(
  traits: VoiceTraits | null,
  model: VoiceModel = voiceModel,
): number {
  if (!traits) return 0;
  const { right, double } = likelihoods(traits, model);
  return right + double;
}

/** Probability of each class (logistic regression with several classes). */
function likelihoods(traits: VoiceTraits, { weights }: VoiceModel): Likelihoods {
  const shares = weights.map((row) =>
    Math.exp(row.reduce((sum, weight, i) => sum + weight * (traits[i] ?? 1), 0)),
  );
  const all = shares.reduce((sum, share) => sum + share, 0);
  return Object.fromEntries(classes.map((name, i) => [name, shares[i]! / all])) as Likelihoods;
}
