import FFT from 'fft.js';
import type { Block } from '../pcm/pcm';
import { powerToDb } from './decibels';

/** Mean spectrum for pictures: level in dB at frequencies a twelfth of an octave apart. */
interface Spectrum {
  /** Centre of each point in Hz. */
  hz: number[];
  /** Level of the loudest bin at each point; a full-scale sine reads 0. */
  levelsDb: number[];
  /** The energy above each point, in dB of all of it; left out by an older Bijou. */
  aboveDb?: number[];
}

export interface SpectrumFacts {
  /** Where the spectrum ends; null for silence. */
  bandwidthHz: number | null;
  /** Where it ends as steeply as encoders and rate converters cut; null where it does not. */
  shelfHz: number | null;
  spectrum: Spectrum | null;
}

const SIZE = 4_096;
/** A bin below both of these is empty: the floor of 16 bits, and far below the loudest. */
const FLOOR_DB = -120;
const RANGE_DB = 88;
/** How far inside and outside the end the levels are read, and how much they must differ. */
const SHELF_HZ = 700;
const GAP_HZ = 300;
const SHELF_FALL_DB = 18;

/** Blackman–Harris window of four terms: side lobes at −92 dB (Harris, Proc. IEEE 66/1, 1978). */
export function blackmanHarris(length: number): Float64Array {
  return Float64Array.from({ length }, (_, i) => {
    const x = (2 * Math.PI * i) / length;
    return 0.35875 - 0.48829 * Math.cos(x) + 0.14128 * Math.cos(2 * x) - 0.01168 * Math.cos(3 * x);
  });
}

const wholeWindow = blackmanHarris(SIZE);

/** Averages the power spectra of all channels. */
export class SpectrumMeter {
  private readonly fft = new FFT(SIZE);
  private readonly power = new Float64Array(SIZE / 2 + 1);
  private held: Float32Array[];
  /** The stretch before, so that the last one can begin inside it. */
  private before: Float32Array[] | null = null;
  private filled = 0;
  private pictures = 0;
  private readonly input = new Float64Array(SIZE);
  private readonly output: number[];

  constructor(
    private readonly rateHz: number,
    channelCount: number,
  ) {
    this.held = Array.from({ length: channelCount }, () => new Float32Array(SIZE));
    this.output = this.fft.createComplexArray();
  }

  push(block: Block): void {
    const frames = block[0]?.length ?? 0;
    for (let at = 0; at < frames;) {
      const take = Math.min(SIZE - this.filled, frames - at);
      block.forEach((channel, c) =>
        this.held[c]!.set(channel.subarray(at, at + take), this.filled),
      );
      this.filled += take;
      at += take;
      if (this.filled < SIZE) continue;
      this.transform(this.held, wholeWindow);
      const spare = this.before ?? this.held.map(() => new Float32Array(SIZE));
      this.before = this.held;
      this.held = spare;
      this.filled = 0;
    }
  }

  /** Adds the spectra of stretches that the window makes end softly; what it does not reach is silence. */
  private transform(channels: readonly Float32Array[], window: Float64Array): void {
    const sum = window.reduce((total, w) => total + w, 0);
    const scale = (2 / sum) ** 2;
    for (const channel of channels) {
      let isSilent = true;
      this.input.fill(0);
      for (let i = 0; i < window.length; i++) {
        const x = channel[i]!;
        if (x !== 0) isSilent = false;
        this.input[i] = x * window[i]!;
      }
      if (isSilent) continue;
      this.fft.realTransform(this.output, this.input);
      const { output, power } = this;
      for (let bin = 0; bin <= SIZE / 2; bin++) {
        const re = output[2 * bin]!;
        const im = output[2 * bin + 1]!;
        power[bin]! += (re * re + im * im) * scale;
      }
      this.pictures++;
    }
  }

  /** The end of the sound: a whole stretch where there is one, else all there is. */
  private last(): void {
    const { before, filled } = this;
    if (filled === 0) return;
    if (!before) {
      this.transform(this.held, blackmanHarris(filled));
      return;
    }
    const stretches = this.held.map((channel, c) => {
      const joined = new Float32Array(SIZE);
      joined.set(before[c]!.subarray(filled));
      joined.set(channel.subarray(0, filled), SIZE - filled);
      return joined;
    });
    this.transform(stretches, wholeWindow);
  }

  result(): SpectrumFacts {
    this.last();
    if (this.pictures === 0) return { bandwidthHz: null, shelfHz: null, spectrum: null };
    const levels = Array.from(this.power, (sum) => {
      return powerToDb(sum / this.pictures) ?? -200;
    });
    const end = endBin(levels);
    const binHz = this.rateHz / SIZE;
    return {
      bandwidthHz: end === null ? null : Math.round(end * binHz),
      shelfHz: end !== null && isShelf(levels, end, binHz) ? Math.round(end * binHz) : null,
      spectrum: { ...picture(levels, binHz), aboveDb: sharesAbove(this.power, binHz) },
    };
  }
}

/** The last bin that holds something. */
function endBin(levels: readonly number[]): number | null {
  const most = levels.reduce((a, b) => Math.max(a, b));
  const limit = Math.max(FLOOR_DB, most - RANGE_DB);
  for (let bin = levels.length - 1; bin > 0; bin--) if (levels[bin]! >= limit) return bin;
  return null;
}

/** Nature fades; a cut-off falls. Read well inside the band, and well below half the rate. */
function isShelf(levels: readonly number[], end: number, binHz: number): boolean {
  const reach = Math.round(SHELF_HZ / binHz);
  const gap = Math.round(GAP_HZ / binHz);
  if (end < 4 * reach || end + 2 * gap >= levels.length) return false;
  const mean = (from: number, to: number) => {
    const part = levels.slice(from, to);
    return part.reduce((sum, level) => sum + level, 0) / part.length;
  };
  const inside = mean(end - 2 * reach, end - reach);
  const outside = mean(end + gap, levels.length);
  const earlier = mean(end - 4 * reach, end - 3 * reach);
  // The fall must lie at the end, not lead up to it.
  return inside - outside >= SHELF_FALL_DB && earlier - inside < (inside - outside) / 2;
}

const LOWEST_HZ = 20;
const POINTS_PER_OCTAVE = 12;

/** What lies above each point of the picture, as a share of all, in dB. */
function sharesAbove(power: Float64Array, binHz: number): number[] {
  const above = new Float64Array(power.length + 1);
  for (let bin = power.length - 1; bin >= 0; bin--) above[bin] = above[bin + 1]! + power[bin]!;
  return pointsUpTo(binHz * (power.length - 1)).map((hz) => {
    // A bin reaches half its width to both sides.
    const share = above[Math.min(power.length, Math.ceil(hz / binHz + 0.5))]! / above[0]!;
    return Math.round(Math.max(-200, powerToDb(share) ?? -200) * 10) / 10;
  });
}

/** The centres of the picture's points, in Hz. */
function pointsUpTo(mostHz: number): number[] {
  const points: number[] = [];
  for (let n = 0; ; n++) {
    const centre = LOWEST_HZ * 2 ** (n / POINTS_PER_OCTAVE);
    if (centre > mostHz) return points;
    points.push(centre);
  }
}

function picture(levels: readonly number[], binHz: number): Spectrum {
  const points = pointsUpTo(binHz * (levels.length - 1));
  return {
    hz: points.map((hz) => Math.round(hz * 10) / 10),
    levelsDb: points.map((centre) => {
      const [from, to] = [-0.5, 0.5].map((half) => centre * 2 ** (half / POINTS_PER_OCTAVE));
      const first = Math.floor(from! / binHz);
      const last = Math.max(first + 1, Math.ceil(to! / binHz));
      return Math.round(Math.max(...levels.slice(first, last), -200) * 10) / 10;
    }),
  };
}
