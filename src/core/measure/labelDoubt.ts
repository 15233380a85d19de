import { kilohertz } from '../tradeNames';
import type { OtherRate } from '../formats/types';
import type { VoicePace } from './voice/pace';

/** A rate that a file is probably labelled with by mistake. */
export interface LabelDoubt {
  labelledHz: number;
  likelyHz: number;
  /** Why, in words that a beginner understands. */
  sentence: string;
}

/** Nearly all voices are recorded at rates from here to there, and many other sounds are a little like one. */
const SPOKEN_HZ = { least: 8_000, most: 48_000 };

/**
 * Gives the rate that another field of the file states, where it is not the one that players go by, or the one at which a
 * voice in it would sound like a person's; null without doubt.
 */
export function labelDoubt(
  { sampleRateHz, otherRates }: { sampleRateHz: number; otherRates: readonly OtherRate[] },
  pace: VoicePace | null,
): LabelDoubt | null {
  const other = otherRates.find(({ rateHz }) => rateHz !== sampleRateHz);
  const label = `It is labelled ${kilohertz(sampleRateHz)}`;
  if (other) {
    return {
      labelledHz: sampleRateHz,
      likelyHz: other.rateHz,
      sentence:
        `${label}, and ${other.where} says ${kilohertz(other.rateHz)}: ` +
        'with the wrong one it plays at another speed and pitch.',
    };
  }
  if (!pace) return null;
  const likelyHz = Math.round(pace === 'double' ? sampleRateHz / 2 : sampleRateHz * 2);
  if (likelyHz < SPOKEN_HZ.least || likelyHz > SPOKEN_HZ.most) return null;
  return {
    labelledHz: sampleRateHz,
    likelyHz,
    sentence:
      `${label}, and a voice in it sounds ${pace === 'double' ? 'twice' : 'half'} as fast and high as people ` +
      `speak: it may have been recorded at ${kilohertz(likelyHz)}. Listen to both; where it is meant like that, ` +
      'nothing is wrong.',
  };
}
