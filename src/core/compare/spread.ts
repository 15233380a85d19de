import { quantile } from '../measure/statistics';

/** What repeated runs came to: the middle one, and between which two thirds of them lie. */
export interface Spread {
  median: number;
  low: number;
  high: number;
}

/** A spread that is wider than this share of its median cannot be relied on. */
const UNSTEADY = 0.2;
/**
 * No spread is stated narrower than so much to both sides, as a share: one run of all differs from the next by that
 * much on a quiet machine, however alike its own repetitions are (measured, see the decision on trials).
 */
const LEAST_SHARE = 0.04;

/**
 * The spread of some figures, at least one: from a sixth of them to five sixths. Of 7 runs it holds the true middle
 * 87 times of 100, of 11 runs 96 times, as long as the machine stays as it is.
 */
export function spreadOf(values: readonly number[]): Spread {
  const median = quantile(values, 0.5);
  return {
    median,
    low: Math.min(quantile(values, 1 / 6), median * (1 - LEAST_SHARE)),
    high: Math.max(quantile(values, 5 / 6), median * (1 + LEAST_SHARE)),
  };
}

export function isUnsteady({ median, low, high }: Spread): boolean {
  return high - low > UNSTEADY * median;
}

/** A spread of what grows along with it. */
export function scaled({ median, low, high }: Spread, factor: number): Spread {
  return { median: median * factor, low: low * factor, high: high * factor };
}
