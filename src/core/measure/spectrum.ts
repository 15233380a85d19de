import FFT from 'fft.js';
import type { Block } from '../pcm/pcm';
import { powerToDb } from './decibels';

/** Mean spectrum for pictures: level in dB at frequencies a twelfth of an octave apart. */
export interface Spectrum {
  /** Centre of each point in Hz. */
  hz: number[];
  /** Level of the loudest bin at each point; a full-scale sine reads 0. */
  levelsDb: number[];
}

export interface SpectrumFacts {
  /** Where the spectrum ends; null for silence. */
  bandwidthHz: number | null;
  /** Where it ends as steeply as encoders and rate converters cut; null where it does not. */
  shelfHz: number | null;
  spectrum: Spectrum | null;
}

const SIZE = 4_096;
const HOP = SIZE;
/** A bin below both of these is empty: the floor of 16 bits, and far below the loudest. */
const FLOOR_DB = -120;
const RANGE_DB = 88;
/** How far from the end the steepness is read, and how much the level must fall there. */
const SHELF_HZ = 700;
const SHELF_FALL_DB = 18;

/** Blackman–Harris window of four terms: side lobes at −92 dB (Harris, Proc. IEEE 66/1, 1978). */
const window = Float64Array.from({ length: SIZE }, (_, i) => {
  const x = (2 * Math.PI * i) / SIZE;
  return 0.35875 - 0.48829 * Math.cos(x) + 0.14128 * Math.cos(2 * x) - 0.01168 * Math.cos(3 * x);
});
const windowSum = window.reduce((sum, w) => sum + w, 0);

/** Averages the power spectra of all channels. */
export class SpectrumMeter {
  private readonly fft = new FFT(SIZE);
  private readonly power = new Float64Array(SIZE / 2 + 1);
  private readonly held: Float32Array[];
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
      const take = Math.min(HOP - this.filled, frames - at);
      block.forEach((channel, c) =>
        this.held[c]!.set(channel.subarray(at, at + take), this.filled),
      );
      this.filled += take;
      at += take;
      if (this.filled === HOP) this.transform();
    }
  }

  private transform(): void {
    for (const channel of this.held) {
      let isSilent = true;
      for (let i = 0; i < SIZE; i++) {
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
        power[bin]! += re * re + im * im;
      }
      this.pictures++;
    }
    this.filled = 0;
  }

  result(): SpectrumFacts {
    if (this.filled > 0) {
      // The last stretch, or a sound shorter than one: silence behind it.
      for (const channel of this.held) channel.fill(0, this.filled);
      this.transform();
    }
    if (this.pictures === 0) return { bandwidthHz: null, shelfHz: null, spectrum: null };
    const levels = Array.from(this.power, (sum) => {
      const scaled = (sum / this.pictures) * (2 / windowSum) ** 2;
      return powerToDb(scaled) ?? -200;
    });
    const end = endBin(levels);
    const binHz = this.rateHz / SIZE;
    return {
      bandwidthHz: end === null ? null : Math.round(end * binHz),
      shelfHz: end !== null && isShelf(levels, end, binHz) ? Math.round(end * binHz) : null,
      spectrum: picture(levels, binHz),
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
  if (end < 4 * reach || end + reach > levels.length * 0.97) return false;
  const mean = (from: number, to: number) => {
    const part = levels.slice(from, to);
    return part.reduce((sum, level) => sum + level, 0) / part.length;
  };
  const inside = mean(end - 2 * reach, end - reach);
  const outside = mean(Math.min(levels.length - 2, end + reach), levels.length);
  const earlier = mean(end - 4 * reach, end - 3 * reach);
  // The fall must lie at the end, not lead up to it.
  return inside - outside >= SHELF_FALL_DB && earlier - inside < (inside - outside) / 2;
}

const LOWEST_HZ = 20;
const POINTS_PER_OCTAVE = 12;

function picture(levels: readonly number[], binHz: number): Spectrum {
  const hz: number[] = [];
  const levelsDb: number[] = [];
  for (let n = 0; ; n++) {
    const centre = LOWEST_HZ * 2 ** (n / POINTS_PER_OCTAVE);
    const [from, to] = [-0.5, 0.5].map((half) => centre * 2 ** (half / POINTS_PER_OCTAVE));
    const first = Math.floor(from! / binHz);
    if (centre > binHz * (levels.length - 1)) return { hz, levelsDb };
    const last = Math.max(first + 1, Math.ceil(to! / binHz));
    hz.push(Math.round(centre * 10) / 10);
    levelsDb.push(Math.round(Math.max(...levels.slice(first, last), -200) * 10) / 10);
  }
}
