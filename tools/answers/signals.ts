/** Signals whose right answer is known after every step, rate and format: worked out here, by nothing of Bijou. */

export interface Tone {
  periods: number;
  size: number;
  phase: number;
}

/** Tones of whole periods in a loop: between its frames and at any rate they are known as well. */
export const LOOP_TONES: readonly Tone[] = [
  { periods: 61, size: 0.3, phase: 0.4 },
  { periods: 487, size: 0.1, phase: 2 },
];

/** Such tones at a place, which may lie between two frames, in a loop of `length`. */
export function tonesAt(tones: readonly Tone[], place: number, length: number): number {
  return tones.reduce(
    (sum, { periods, size, phase }) =>
      sum + size * Math.cos((2 * Math.PI * periods * place) / length + phase),
    0,
  );
}

export function madeBy(frames: number, value: (frame: number) => number): Float32Array {
  return Float32Array.from({ length: frames }, (_, i) => value(i));
}

/** Of whole numbers of 16 bits, each another one. */
export const ramp = (frames: number) =>
  madeBy(frames, (i) => (((i * 37) % 65_535) - 32_767) / 32_768);

export const impulse = (frames: number, at: number) => madeBy(frames, (i) => (i === at ? 0.5 : 0));

/** The largest difference of two signals over a stretch, which may run over the end of a loop, in dB. */
export function differenceDb(
  found: Float32Array,
  wanted: (frame: number) => number,
  from: number,
  to: number,
): number {
  let most = 1e-10;
  for (let k = from; k < to; k++) {
    const i = ((k % found.length) + found.length) % found.length;
    most = Math.max(most, Math.abs(found[i]! - wanted(i)));
  }
  return 20 * Math.log10(most);
}

/** Root mean square in dBFS. */
export function levelDb(sound: Float32Array, from = 0, to = sound.length): number {
  let sum = 0;
  for (let i = from; i < to; i++) sum += sound[i]! ** 2;
  return 10 * Math.log10(sum / (to - from) + 1e-20);
}
