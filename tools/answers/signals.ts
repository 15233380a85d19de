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

/** Vowels, hisses and pauses in an order that a seed gives, much like speech: codecs find it hard. */
export function syllables(seed: number, rateHz: number, frames: number): Float32Array {
  const next = noiseOf(seed);
  const out = new Float32Array(frames);
  for (let at = 0; at < frames;) {
    const length = Math.floor(rateHz * (0.06 + 0.08 * Math.abs(next())));
    const [pitchHz, isVowel] = [110 * 2 ** next(), next() > -0.3];
    const level = 10 ** (-(4 + 15 * Math.abs(next())) / 20);
    let [phase, last] = [0, 0];
    for (let i = 0; i < length && at + i < frames; i++) {
      const hz = pitchHz * (1 + (0.2 * i) / length);
      phase += hz / rateHz;
      last = isVowel ? vowel(phase, hz) : 0.5 * next() - 0.6 * last;
      out[at + i] = level * Math.min(1, i / 200, (length - i) / 600) * last;
    }
    at += length + (next() > 0.3 ? Math.floor(rateHz * 0.03) : 0);
  }
  return out;
}

/** A sung note that is there from its first frame on, a little wider than mono. */
export function sungNote(seed: number, rateHz: number, frames: number): Float32Array[] {
  const pitchHz = 100 + 150 * Math.abs(noiseOf(seed)());
  const breath = noiseOf(seed + 50);
  return [1, 2].map((width) =>
    madeBy(frames, (i) => {
      const phase = (i / rateHz) * pitchHz * (1 + (0.1 * i) / frames);
      let sum = 0;
      for (let h = 1; h < 60; h++) sum += Math.cos(2 * Math.PI * h * phase) / (1 + h / 6);
      return 0.08 * sum + 0.01 * width * breath();
    }),
  );
}

/** Harmonics with two formants. */
function vowel(phase: number, hz: number): number {
  let sum = 0;
  for (let h = 1; h <= 24; h++) {
    const size =
      1 / (1 + Math.abs(h * hz - 700) / 300) + 0.25 / (1 + Math.abs(h * hz - 2_500) / 400);
    sum += size * Math.cos(2 * Math.PI * h * phase);
  }
  return 0.25 * sum;
}

/** Evenly spread numbers from −1 to 1, the same for the same seed. */
function noiseOf(seed: number): () => number {
  let state = (seed * 7_919 + 13) >>> 0 || 1;
  const next = () => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    state >>>= 0;
    return state / 2 ** 31 - 1;
  };
  // Small seeds begin with small numbers.
  for (let i = 0; i < 20; i++) next();
  return next;
}
