/** A signal sample by sample. A loop: `Float32Array.from` takes ten times as long in a test's context. */
function signal(frames: number, at: (i: number) => number): Float32Array {
  const samples = new Float32Array(frames);
  for (let i = 0; i < frames; i++) samples[i] = at(i);
  return samples;
}

/** Test signals, all made by formula so that every run sees the same frames. */
export function sine(rateHz: number, hz: number, frames: number, amplitude = 0.5): Float32Array {
  return signal(frames, (i) => amplitude * Math.sin((2 * Math.PI * hz * i) / rateHz));
}

/** Uniform noise from a small linear congruential generator. */
export function noise(frames: number, seed = 1, amplitude = 0.5): Float32Array {
  let state = seed;
  return signal(frames, () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return amplitude * (state / 2_147_483_648 - 1);
  });
}

/** Noise that lies on the grid of `bits`, as a file of that depth would. */
export function gridNoise(frames: number, bits: number, seed = 1): Float32Array {
  const scale = 2 ** (bits - 1);
  return noise(frames, seed, 0.9).map((x) => (Math.round(x * scale) || 0) / scale);
}

/** Level of the difference of two signals in dB below `reference`'s own level. */
export function errorDb(
  actual: Float32Array,
  reference: Float32Array,
  from = 0,
  to?: number,
): number {
  let difference = 0;
  let power = 0;
  for (let i = from; i < (to ?? reference.length); i++) {
    difference += (actual[i]! - reference[i]!) ** 2;
    power += reference[i]! ** 2;
  }
  return 10 * Math.log10(difference / power);
}
