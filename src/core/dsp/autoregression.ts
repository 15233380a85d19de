/** Linear prediction of a stretch of sound: each sample from those before it. */

/** Coefficients a₁ … aₚ of x[n] ≈ Σ aₖ·x[n−k], by autocorrelation and Levinson–Durbin. */
export function predictor(signal: Float64Array, order: number): Float64Array {
  const r = autocorrelation(signal, order);
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

/** Sums of products with itself, `0 … order` samples apart; four at a time, which is twice as fast. */
function autocorrelation(signal: Float64Array, order: number): Float64Array {
  const r = new Float64Array(order + 1);
  const { length } = signal;
  for (let lag = 0; lag <= order; lag += 4) {
    let [r0, r1, r2, r3] = [0, 0, 0, 0];
    const from = Math.min(length, lag + 3);
    for (let i = lag; i < from; i++) {
      r0 += signal[i]! * signal[i - lag]!;
      if (i > lag) r1 += signal[i]! * signal[i - lag - 1]!;
      if (i > lag + 1) r2 += signal[i]! * signal[i - lag - 2]!;
    }
    for (let i = from; i < length; i++) {
      const x = signal[i]!;
      const at = i - lag;
      r0 += x * signal[at]!;
      r1 += x * signal[at - 1]!;
      r2 += x * signal[at - 2]!;
      r3 += x * signal[at - 3]!;
    }
    r.set([r0, r1, r2, r3].slice(0, order + 1 - lag), lag);
  }
  return r;
}

/** What the predictor did not foresee, for every sample that has a whole past. */
export function residual(signal: Float64Array, a: Float64Array): Float64Array {
  const order = a.length;
  const out = new Float64Array(signal.length);
  const even = order - (order % 4);
  for (let i = order; i < signal.length; i++) {
    let sum = signal[i]!;
    let k = 0;
    for (; k < even; k += 4) {
      const at = i - 1 - k;
      sum -=
        a[k]! * signal[at]! +
        a[k + 1]! * signal[at - 1]! +
        a[k + 2]! * signal[at - 2]! +
        a[k + 3]! * signal[at - 3]!;
    }
    for (; k < order; k++) sum -= a[k]! * signal[i - 1 - k]!;
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
