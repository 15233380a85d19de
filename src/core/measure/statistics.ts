/** Arithmetic mean; NaN of nothing. */
export function mean(values: readonly number[]): number {
  return values.reduce((sum, value) => sum + value, 0) / values.length;
}

/** Standard deviation of all that there is (not an estimate from a sample). */
export function deviation(values: readonly number[]): number {
  const middle = mean(values);
  return Math.sqrt(mean(values.map((value) => (value - middle) ** 2)));
}

/** The value below which a share of all lies, between two neighbours in proportion; 0 of nothing. */
export function quantile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  const place = share * (sorted.length - 1);
  const below = sorted[Math.floor(place)] ?? 0;
  const above = sorted[Math.ceil(place)] ?? 0;
  return below + (above - below) * (place - Math.floor(place));
}
