import FFT from 'fft.js';
import { tempoLimits, type Tempo } from '../tempo';
import { blockFrames, type Block } from '../pcm/pcm';
import { range, type PcmSource } from '../pcm/source';
import { hann } from './hann';

/** A tempo as far as it can be heard in a sound. */
export interface ProposedTempo extends Tempo {
  /** 0 (a guess) to 1 (sure). */
  confidence: number;
}

/** So much from the beginning tells enough. */
const MOST_SECONDS = 120;
/** A shorter sound has no tempo. */
const LEAST_SECONDS = 2;
/** One step of the onset curve, about. */
const HOP_SECONDS = 0.01;
const SIZE = 1_024;
const BANDS = 24;
const LOWEST_HZ = 60;
const SLOWEST_BPM = 40;
const FASTEST_BPM = 240;
/** Tempos that people tap most lie around it (van Noorden and Moelants, J. New Music Res. 28/1, 1999). */
const USUAL_BPM = 120;
const USUAL_WIDTH_OCTAVES = 1;

/**
 * Finds the tempo of a sound: how much its bands rise from step to step (spectral flux), how alike that curve is
 * to itself a beat later (autocorrelation), the likeliest beat, refined over as many beats as there are. null for
 * silence and for what is too short. `pause` is asked between blocks.
 */
export async function proposeTempo(
  source: PcmSource,
  pause: () => Promise<void> | void = () => undefined,
): Promise<ProposedTempo | null> {
  const { rateHz, frames } = source;
  if (frames < LEAST_SECONDS * rateHz) return null;
  const meter = new OnsetMeter(rateHz);
  for await (const block of range(source, 0, Math.min(frames, MOST_SECONDS * rateHz))) {
    await pause();
    meter.push(block);
  }
  return tempoOf(meter.curve(), meter.stepsPerSecond);
}

/** How much all bands together get louder, step by step. */
class OnsetMeter {
  private readonly hop: number;
  private readonly fft = new FFT(SIZE);
  private readonly output: number[];
  private readonly window = hann(SIZE);
  private readonly edges: number[];
  private readonly held = new Float64Array(SIZE);
  private filled = 0;
  private before: number[] | null = null;
  private readonly rises: number[] = [];

  constructor(private readonly rateHz: number) {
    this.hop = Math.max(1, Math.min(SIZE, Math.round(HOP_SECONDS * rateHz)));
    this.output = this.fft.createComplexArray();
    const highest = rateHz / 2;
    this.edges = Array.from({ length: BANDS + 1 }, (_, i) =>
      Math.round((LOWEST_HZ * (highest / LOWEST_HZ) ** (i / BANDS) * SIZE) / rateHz),
    );
  }

  get stepsPerSecond(): number {
    return this.rateHz / this.hop;
  }

  push(block: Block): void {
    for (let at = 0; at < blockFrames(block);) {
      const take = Math.min(SIZE - this.filled, blockFrames(block) - at);
      for (let i = 0; i < take; i++) {
        let sum = 0;
        for (const channel of block) sum += channel[at + i]!;
        this.held[this.filled + i] = sum;
      }
      this.filled += take;
      at += take;
      if (this.filled < SIZE) continue;
      this.step();
      this.held.copyWithin(0, this.hop);
      this.filled = SIZE - this.hop;
    }
  }

  private step(): void {
    const input = this.held.map((x, i) => x * this.window[i]!);
    this.fft.realTransform(this.output, input);
    const bands = Array.from({ length: BANDS }, (_, band) => {
      let power = 0;
      const from = this.edges[band]!;
      const to = Math.max(from + 1, this.edges[band + 1]!);
      for (let bin = from; bin < to && bin <= SIZE / 2; bin++) {
        power += this.output[2 * bin]! ** 2 + this.output[2 * bin + 1]! ** 2;
      }
      // About as loudness grows, so that accents stay accents.
      return power ** 0.25;
    });
    const { before } = this;
    this.rises.push(
      before ? bands.reduce((sum, level, i) => sum + Math.max(0, level - before[i]!), 0) : 0,
    );
    this.before = bands;
  }

  /** Without what it is on average over half a second. */
  curve(): Float64Array {
    const reach = Math.round(this.stepsPerSecond / 4);
    const sums = new Float64Array(this.rises.length + 1);
    this.rises.forEach((rise, i) => (sums[i + 1] = sums[i]! + rise));
    return Float64Array.from(this.rises, (rise, i) => {
      const [from, to] = [Math.max(0, i - reach), Math.min(this.rises.length, i + reach + 1)];
      return Math.max(0, rise - (sums[to]! - sums[from]!) / (to - from));
    });
  }
}

function tempoOf(curve: Float64Array, stepsPerSecond: number): ProposedTempo | null {
  const alike = likeness(curve);
  if (!alike) return null;
  const lagOf = (bpm: number) => (60 / bpm) * stepsPerSecond;
  let best = { bpm: 0, score: 0 };
  for (let bpm = SLOWEST_BPM; bpm <= FASTEST_BPM; bpm *= 1.005) {
    const score = beatScore(alike, lagOf(bpm)) * usualness(bpm);
    if (score > best.score) best = { bpm, score };
  }
  if (best.score <= 0) return null;
  const lag = refined(alike, lagOf(best.bpm));
  const bpm = tidyBpm((60 * stepsPerSecond) / lag);
  const confidence = Math.max(0, Math.min(1, beatScore(alike, lag)));
  const beatsPerBar = barScore(alike, lag, 3) > barScore(alike, lag, 4) ? 3 : 4;
  return {
    bpm,
    beatsPerBar,
    confidence: Math.round(confidence * 100) / 100,
  };
}

/** How alike the curve is to itself so many steps later, 1 for the same; null for a flat one. */
function likeness(curve: Float64Array): Float64Array | null {
  const mean = curve.reduce((sum, x) => sum + x, 0) / curve.length;
  const centred = curve.map((x) => x - mean);
  let size = 1;
  while (size < 2 * centred.length) size *= 2;
  const fft = new FFT(size);
  const padded = new Float64Array(size);
  padded.set(centred);
  const spectrum = fft.createComplexArray();
  fft.realTransform(spectrum, padded);
  fft.completeSpectrum(spectrum);
  for (let i = 0; i < size; i++) {
    spectrum[2 * i] = spectrum[2 * i]! ** 2 + spectrum[2 * i + 1]! ** 2;
    spectrum[2 * i + 1] = 0;
  }
  const back = fft.createComplexArray();
  fft.inverseTransform(back, spectrum);
  const whole = back[0]!;
  if (!(whole > 1e-9)) return null;
  // Later lags have fewer steps in common.
  return Float64Array.from(centred, (_, lag) => {
    const share = 1 - lag / centred.length;
    return share > 0.2 ? back[2 * lag]! / whole / share : 0;
  });
}

/** Between two steps linearly; 0 beyond. */
function at(alike: Float64Array, lag: number): number {
  const low = Math.floor(lag);
  const share = lag - low;
  return (alike[low] ?? 0) * (1 - share) + (alike[low + 1] ?? 0) * share;
}

/** A beat comes again after one, two, four of it, and hardly after one and a half. */
function beatScore(alike: Float64Array, lag: number): number {
  const again = (at(alike, lag) + at(alike, 2 * lag) + at(alike, 3 * lag) + at(alike, 4 * lag)) / 4;
  return again - Math.max(0, at(alike, 1.5 * lag)) / 4;
}

/** How alike bars of so many beats are, one and two bars later. */
function barScore(alike: Float64Array, lag: number, beats: number): number {
  const peaks = [1, 2].map((n) => {
    const middle = Math.round(n * beats * lag);
    // A peak between two steps lies in both.
    return [-2, -1, 0, 1, 2].reduce((sum, by) => sum + (alike[middle + by] ?? 0), 0);
  });
  return peaks.reduce((sum, peak) => sum + peak, 0) / peaks.length;
}

function usualness(bpm: number): number {
  const octaves = Math.log2(bpm / USUAL_BPM) / USUAL_WIDTH_OCTAVES;
  return Math.exp(-0.5 * octaves ** 2);
}

/** Follows a beat from one to the next as far as it goes: the farther, the more exact. */
function refined(alike: Float64Array, lag: number): number {
  let exact = lag;
  for (let beats = 1; beats * exact < alike.length * 0.75; beats *= 2) {
    const middle = Math.round(beats * exact);
    const reach = Math.max(2, Math.ceil(beats === 1 ? lag * 0.03 : 3));
    let peak = middle;
    for (let i = middle - reach; i <= middle + reach; i++) {
      if ((alike[i] ?? 0) > (alike[peak] ?? 0)) peak = i;
    }
    if ((alike[peak] ?? 0) < 0.05) break;
    const [a, b, c] = [alike[peak - 1] ?? 0, alike[peak]!, alike[peak + 1] ?? 0];
    const bend = a - 2 * b + c;
    exact = (peak + (bend < 0 ? (0.5 * (a - c)) / bend : 0)) / beats;
  }
  return exact;
}

/** Music is made at whole tempos more often than beside them. */
function tidyBpm(bpm: number): number {
  const { min, max } = tempoLimits.bpm;
  const whole = Math.round(bpm);
  const near = Math.abs(bpm - whole) < 0.1 ? whole : Math.round(bpm * 100) / 100;
  return Math.max(min, Math.min(max, near));
}
