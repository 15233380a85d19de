import { noiseSource } from '../../dsp/noise';
import { STEADY_RMS, type ReferenceKind } from './types';

/** Equal power in every octave, other noise in both channels: nothing in it can be foreseen. */
export const pinkNoise: ReferenceKind = {
  id: 'pink-noise',
  name: 'Pink noise',
  says: 'The hardest for every codec: nothing can be foreseen, and both channels are different.',
  make: (frames, rateHz) => [1, 2].map((seed) => pink(frames, rateHz, seed * 7_919)),
};

/** Poles an octave apart, a zero between two each: 3 dB per octave to within 0.1 dB. */
const LOWEST_HZ = 10;

export function pink(frames: number, rateHz: number, seed: number): Float32Array {
  const white = noiseSource(seed);
  const sections = Array.from(
    { length: Math.max(1, Math.ceil(Math.log2(rateHz / 2 / LOWEST_HZ))) },
    (_, octave) => section(LOWEST_HZ * 2 ** octave, rateHz),
  );
  const samples = new Float32Array(frames);
  // Until the slowest pole has settled.
  for (let i = -Math.round(rateHz / LOWEST_HZ); i < frames; i++) {
    let x = white();
    for (const filter of sections) x = filter(x);
    if (i >= 0) samples[i] = x;
  }
  const rms = Math.sqrt(samples.reduce((sum, x) => sum + x * x, 0) / Math.max(1, frames)) || 1;
  return samples.map((x) => (x * STEADY_RMS) / rms);
}

/** One pole and, half an octave above, one zero. */
function section(hz: number, rateHz: number): (x: number) => number {
  const pole = Math.exp((-2 * Math.PI * hz) / rateHz);
  const zero = Math.exp((-2 * Math.PI * hz * Math.SQRT2) / rateHz);
  let [before, out] = [0, 0];
  return (x) => {
    out = x - zero * before + pole * out;
    before = x;
    return out;
  };
}
