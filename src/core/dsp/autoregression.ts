/** Linear prediction of a stretch of sound: each sample from those before it. */

/** Coefficients a₁ … aₚ of x[n] ≈ Σ aₖ·x[n−k], by autocorrelation and Levinson–Durbin. */
export function predictor(signal: Float64Array, order: number): Float64Array {
  const r = new Float64Array(order + 1);
  const { length } = signal;
  for (let lag = 0; lag <= order; lag++) {
    let sum = 0;
    for (let i = lag; i < length; i++) sum += signal[i]! * signal[i - lag]!;
    r[lag] = sum;
  }
  const a = new Float64Array(order);
  // A little noise keeps silence and pure tones solvable.
  let error = r[0]! * (1 + 1e-9) + 1e-12;
  const before = new Float64Array(order);
  for (let i = 0; i < order; i++) {
    let sum = r[i + 1]!;
    for (let j = 0; j < i; j++) sum -= a[j]! * r[i - j]!;
    const k = sum / error;
    before.set(a);
    a[i] = k;
    for (let j = 0; j < i; j++) a[j] = before[j]! - k * before[i - 1 - j]!;
    error *= 1 - k * k;
    if (error <= 0) break;
  }
  return a;
}

/** What the predictor did not foresee, for every sample that has a whole past. */
export function residual(signal: Float64Array, a: Float64Array): Float64Array {
  const order = a.length;
  const out = new Float64Array(signal.length);
  for (let i = order; i < signal.length; i++) {
    let sum = signal[i]!;
    for (let k = 0; k < order; k++) sum -= a[k]! * signal[i - 1 - k]!;
    out[i] = sum;
  }
  return out;
}

/**
 * Replaces `count` samples from `start` on by those that leave the least unforeseen around them
 * (Janssen, Veldhuis and Vries, "Adaptive interpolation of discrete-time signals", IEEE ASSP 34/2, 1986).
 */
export function interpolate(
  signal: Float64Array,
  a: Float64Array,
  start: number,
  count: number,
): void {
  const order = a.length;
  const filter = new Float64Array(order + 1);
  filter[0] = 1;
  for (let k = 0; k < order; k++) filter[k + 1] = -a[k]!;
  // b[lag] is the filter's autocorrelation: the system is Toeplitz in it.
  const b = new Float64Array(order + 1);
  for (let lag = 0; lag <= order; lag++) {
    for (let k = 0; k + lag <= order; k++) b[lag]! += filter[k]! * filter[k + lag]!;
  }
  const at = (lag: number) => b[lag < 0 ? -lag : lag] ?? 0;
  const rows = Array.from({ length: count }, (_, i) => {
    const row = new Float64Array(count + 1);
    for (let j = 0; j < count; j++) row[j] = at(i - j);
    let known = 0;
    for (let lag = -order; lag <= order; lag++) {
      const place = start + i + lag;
      if (place >= start && place < start + count) continue;
      known += at(lag) * (signal[place] ?? 0);
    }
    row[count] = -known;
    return row;
  });
  solve(rows).forEach((x, i) => (signal[start + i] = x));
}

/** Gaussian elimination without exchanging rows: the system is positive definite. */
function solve(rows: Float64Array[]): number[] {
  const n = rows.length;
  for (let i = 0; i < n; i++) {
    const pivot = rows[i]![i]! || 1e-12;
    for (let j = i + 1; j < n; j++) {
      const factor = rows[j]![i]! / pivot;
      if (factor === 0) continue;
      for (let k = i; k <= n; k++) rows[j]![k]! -= factor * rows[i]![k]!;
    }
  }
  const out = new Array<number>(n).fill(0);
  for (let i = n - 1; i >= 0; i--) {
    let sum = rows[i]![n]!;
    for (let j = i + 1; j < n; j++) sum -= rows[i]![j]! * out[j]!;
    out[i] = sum / (rows[i]![i]! || 1e-12);
  }
  return out;
}
