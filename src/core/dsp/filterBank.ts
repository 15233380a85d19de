import { LRUCache } from 'lru-cache';

/** Zeroth-order modified Bessel function of the first kind, by its series. */
function besselI0(x: number): number {
  let sum = 1;
  let term = 1;
  for (let k = 1; term > sum * 1e-17; k++) {
    term *= (x / (2 * k)) ** 2;
    sum += term;
  }
  return sum;
}

/** Stop-band attenuation the filters are designed for. */
const ATTENUATION_DB = 118;
/** Share of the lower Nyquist rate that passes flat: 20 kHz of 22.05 kHz. */
const PASS_SHARE = 0.9075;
/** Ratios that need more phases than this share a table and interpolate between neighbours. */
const MOST_EXACT_PHASES = 1_280;
/** So many to a frame of the lower rate: a straight line between two then errs by less than −130 dB. */
const INTERPOLATED_PHASES = 2_048;
/** Ratios are told apart by so much where a table is shared. */
const SHARED_STEPS = 1_000;

/** The polyphase filter of one rate change. */
export interface FilterBank {
  /** Taps per phase; a multiple of 8. */
  taps: number;
  phases: number;
  /** Whether positions fall exactly on phases; otherwise neighbours are interpolated. */
  exact: boolean;
  /** `phases + 1` rows of `taps` coefficients. */
  coefficients: Float32Array;
}

/** Tables take up to megabytes; a few ratios are in use at a time. */
const cache = new LRUCache<string, FilterBank>({ max: 16 });

/**
 * `phases + 1` rows of a Kaiser-windowed sinc, each scaled to unity gain at 0 Hz. `cutoff` is in cycles
 * per input frame.
 */
function windowedSinc(phases: number, taps: number, cutoff: number, beta: number): Float32Array {
  const coefficients = new Float32Array((phases + 1) * taps);
  const values = new Float64Array(taps);
  const half = taps / 2;
  const scale = 1 / besselI0(beta);
  for (let phase = 0; phase <= phases; phase++) {
    const row = phase * taps;
    let sum = 0;
    for (let tap = 0; tap < taps; tap++) {
      const x = tap - (half - 1) - phase / phases;
      const inside = 1 - (x / half) ** 2;
      const window = inside > 0 ? besselI0(beta * Math.sqrt(inside)) * scale : 0;
      const angle = 2 * Math.PI * cutoff * x;
      const value = (angle === 0 ? 1 : Math.sin(angle) / angle) * window;
      values[tap] = value;
      sum += value;
    }
    for (let tap = 0; tap < taps; tap++) coefficients[row + tap] = values[tap]! / sum;
  }
  return coefficients;
}

/** A short filter that looks between samples: `phases` values for each frame, up to half the rate. */
export function interpolationBank(phases: number, taps: number): FilterBank {
  return { taps, phases, exact: true, coefficients: windowedSinc(phases, taps, 0.5, 6) };
}

/**
 * Designs a Kaiser-windowed sinc (Kaiser 1974; Oppenheim and Schafer, "Discrete-Time Signal
 * Processing", 7.6) for `up`/`down` in lowest terms. Its stop band begins at the lower Nyquist rate,
 * so that neither images nor aliases are left; every phase is scaled to unity gain at 0 Hz. Where only what lies
 * below `wanted` (in cycles per input frame) has to be right, images and aliases may be left above it.
 */
export function filterBank(up: number, down: number, wanted = 1): FilterBank {
  const exact = up <= MOST_EXACT_PHASES;
  const ratio = Math.min(1, up / down);
  const share = exact ? ratio : Math.floor(ratio * SHARED_STEPS) / SHARED_STEPS;
  const phases = exact ? up : Math.ceil(INTERPOLATED_PHASES * share);
  const key = `${phases}/${exact ? down : 'between'}/${wanted}`;
  const known = cache.get(key);
  if (known) return known;
  // Frequencies in cycles per input frame.
  const nyquist = 0.5 * share;
  const isPart = wanted < nyquist * PASS_SHARE;
  const pass = isPart ? wanted : nyquist * PASS_SHARE;
  const stop = isPart ? 2 * nyquist - wanted : nyquist;
  const cutoff = (stop + pass) / 2;
  const beta = 0.1102 * (ATTENUATION_DB - 8.7);
  const length = (ATTENUATION_DB - 7.95) / (2.285 * 2 * Math.PI * (stop - pass));
  const taps = Math.ceil(length / 8) * 8;
  const bank = { taps, phases, exact, coefficients: windowedSinc(phases, taps, cutoff, beta) };
  cache.set(key, bank);
  return bank;
}

/** No value that a bank interpolates is larger than the largest sample around it times this. */
export function mostGain({ coefficients, taps }: FilterBank): number {
  const rows = Array.from({ length: coefficients.length / taps }, (_, row) =>
    coefficients.subarray(row * taps, (row + 1) * taps).reduce((sum, x) => sum + Math.abs(x), 0),
  );
  return Math.max(...rows) * (1 + 1e-6);
}
