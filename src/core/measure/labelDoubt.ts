import { kilohertz } from '../tradeNames';
import type { OtherRate } from '../formats/types';

/** A rate that a file is probably labelled with by mistake. */
export interface LabelDoubt {
  labelledHz: number;
  likelyHz: number;
  /** Why, in words that a beginner understands. */
  sentence: string;
}

/** Gives the rate that another field of the file states, where it is not the one that players go by; null without doubt. */
export function labelDoubt({
  sampleRateHz,
  otherRates,
}: {
  sampleRateHz: number;
  otherRates: readonly OtherRate[];
}): LabelDoubt | null {
  const other = otherRates.find(({ rateHz }) => rateHz !== sampleRateHz);
  if (!other) return null;
  return {
    labelledHz: sampleRateHz,
    likelyHz: other.rateHz,
    sentence:
      `It is labelled ${kilohertz(sampleRateHz)}, and ${other.where} says ${kilohertz(other.rateHz)}: ` +
      'with the wrong one it plays at another speed and pitch.',
  };
}
