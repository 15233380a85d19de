import { fidelity, type Fidelity } from '@/core/compare/fidelity';
import { sourceFromChannels } from '@/core/pcm/source';

/** Holds whole channels against each other. */
export function compared(
  source: Float32Array[],
  decoded: Float32Array[],
  rateHz: number,
  decodedHz = rateHz,
): Promise<Fidelity> {
  return fidelity(sourceFromChannels(source, rateHz), sourceFromChannels(decoded, decodedHz));
}

/** Uniform noise of a level against a signal, in dB of power, added to it. */
export function withNoise(signal: Float32Array, noise: Float32Array, db: number): Float32Array {
  const power = (x: Float32Array) => x.reduce((sum, one) => sum + one * one, 0);
  const gain = Math.sqrt((power(signal) / power(noise)) * 10 ** (db / 10));
  return signal.map((x, i) => x + gain * noise[i]!);
}

/** Everything above a frequency taken away, steeply (windowed sinc). */
export function lowPassed(signal: Float32Array, hz: number, rateHz: number): Float32Array {
  const half = 200;
  const taps = Float64Array.from({ length: 2 * half + 1 }, (_, n) => {
    const x = (2 * Math.PI * hz * (n - half)) / rateHz;
    const sinc = n === half ? (2 * hz) / rateHz : Math.sin(x) / (Math.PI * (n - half));
    return sinc * (0.5 + 0.5 * Math.cos((Math.PI * (n - half)) / (half + 1)));
  });
  const out = new Float32Array(signal.length);
  for (let i = 0; i < out.length; i++) {
    let sum = 0;
    const from = Math.max(0, i - half);
    const to = Math.min(signal.length - 1, i + half);
    for (let k = from; k <= to; k++) sum += signal[k]! * taps[i - k + half]!;
    out[i] = sum;
  }
  return out;
}
