import FFT from 'fft.js';
import { hann } from '../../measure/hann';
import type { Block } from '../../pcm/pcm';
import type { Sides } from './sides';

/** Length of one spectrum in seconds, about: long enough to tell low tones apart. */
const WINDOW_SECONDS = 0.04;
const LOWEST_HZ = 50;
const HIGHEST_HZ = 16_000;
/** Loudness grows about so with power: what is weak counts less, but counts. */
const COMPRESSION = 0.3;
/** Mean power below which a side is silence, which has no timbre. */
const SILENCE_POWER = 1e-10;

/**
 * How differently both sides of a seam are coloured, 0 (alike) to 1 (nothing in common): third-octave bands of
 * half a second each, brought to the same level, compressed as ears do, the sum of the differences over the sum.
 */
export function timbreDifference({ before, behind, rateHz }: Sides): number {
  const [a, b] = [bandsOf(before, rateHz), bandsOf(behind, rateHz)];
  if (!a || !b) return 0;
  let [apart, whole] = [0, 0];
  a.forEach((x, i) => {
    apart += Math.abs(x - b[i]!);
    whole += x + b[i]!;
  });
  return whole > 0 ? apart / whole : 0;
}

/** Compressed share of each band; null for silence. */
function bandsOf(block: Block, rateHz: number): number[] | null {
  const power = meanSpectrum(block, rateHz);
  const binHz = rateHz / ((power.length - 1) * 2);
  const bands: number[] = [];
  for (let hz = LOWEST_HZ; hz < Math.min(HIGHEST_HZ, rateHz / 2); hz *= 2 ** (1 / 3)) {
    const from = Math.floor(hz / binHz);
    const to = Math.max(from + 1, Math.floor((hz * 2 ** (1 / 3)) / binHz));
    bands.push(power.subarray(from, to).reduce((sum, one) => sum + one, 0));
  }
  const total = bands.reduce((sum, band) => sum + band, 0);
  return total < SILENCE_POWER ? null : bands.map((band) => (band / total) ** COMPRESSION);
}

/** Mean power spectrum of all channels, half-overlapping Hann windows. */
function meanSpectrum(block: Block, rateHz: number): Float64Array {
  const frames = block[0]?.length ?? 0;
  const wanted = 2 ** Math.round(Math.log2(WINDOW_SECONDS * rateHz));
  const size = Math.max(64, Math.min(wanted, 2 ** Math.floor(Math.log2(frames))));
  const fft = new FFT(size);
  const window = hann(size);
  const input = new Float64Array(size);
  const output = fft.createComplexArray();
  const power = new Float64Array(size / 2 + 1);
  let count = 0;
  for (const channel of block) {
    for (let at = 0; at + size <= frames; at += size / 2) {
      for (let i = 0; i < size; i++) input[i] = channel[at + i]! * window[i]!;
      fft.realTransform(output, input);
      for (let bin = 0; bin <= size / 2; bin++) {
        power[bin]! += output[2 * bin]! ** 2 + output[2 * bin + 1]! ** 2;
      }
      count++;
    }
  }
  return power.map((sum) => sum / Math.max(1, count) / size ** 2);
}
