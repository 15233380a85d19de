/** A signal by formula: same call, same samples. */
export interface ReferenceKind {
  /** How it is asked for. */
  id: string;
  name: string;
  /** What it shows of a codec. */
  says: string;
  /** Planar samples, full scale ±1. */
  make(frames: number, rateHz: number): Float32Array[];
}

/** Root mean square of signals that go on all the time, −20 dBFS: leaves codecs room above. */
export const STEADY_RMS = 0.1;

export const TAU = 2 * Math.PI;
/** Amplitude of a sine of `STEADY_RMS`. */
export const STEADY_SINE = STEADY_RMS * Math.SQRT2;

/** One channel by a function of time in seconds. */
export function byTime(
  frames: number,
  rateHz: number,
  at: (seconds: number) => number,
): Float32Array {
  const samples = new Float32Array(frames);
  for (let i = 0; i < frames; i++) samples[i] = at(i / rateHz);
  return samples;
}
