import FFT from 'fft.js';
import { blackmanHarris } from '../../measure/spectrum';
import type { Block } from '../../pcm/pcm';

const SPECTRA_SIZE = 8_192;
const HOP = SPECTRA_SIZE / 2;
/** Pictures overlap until there are so many: then there are enough without. */
const FEW = 32;

/** Mean power spectra of both sides; a full-scale sine reads 1 in its bin. */
export interface Spectra {
  binHz: number;
  source: Float64Array;
  decoded: Float64Array;
}

/** Averages the spectra of a source and of what was decoded of it, over all channels. */
export class SpectraMeter {
  private readonly fft = new FFT(SPECTRA_SIZE);
  private readonly window = blackmanHarris(SPECTRA_SIZE);
  private readonly input = new Float64Array(2 * SPECTRA_SIZE);
  private readonly output = new Float64Array(2 * SPECTRA_SIZE);
  private readonly source = new Float64Array(SPECTRA_SIZE / 2 + 1);
  private readonly decoded = new Float64Array(SPECTRA_SIZE / 2 + 1);
  private readonly held: Float32Array[][];
  private filled = 0;
  private stretches = 0;
  private pictures = 0;

  constructor(
    private readonly rateHz: number,
    private readonly channelCount: number,
  ) {
    const empty = () => Array.from({ length: channelCount }, () => new Float32Array(SPECTRA_SIZE));
    this.held = [empty(), empty()];
  }

  push(source: Block, decoded: Block): void {
    const frames = source[0]?.length ?? 0;
    for (let at = 0; at < frames;) {
      const take = Math.min(SPECTRA_SIZE - this.filled, frames - at);
      [source, decoded].forEach((block, side) =>
        block.forEach((channel, c) =>
          this.held[side]![c]!.set(channel.subarray(at, at + take), this.filled),
        ),
      );
      this.filled += take;
      at += take;
      if (this.filled < SPECTRA_SIZE) continue;
      if (this.pictures < FEW || this.stretches % 2 === 0) this.transform(this.window);
      this.stretches++;
      for (const channel of this.held.flat()) channel.copyWithin(0, HOP);
      this.filled = SPECTRA_SIZE - HOP;
    }
  }

  result(): Spectra {
    const { filled, pictures } = this;
    if (pictures === 0 && filled > 0) {
      // Shorter than one picture: the window closes where the sound ends.
      for (const channel of this.held.flat()) channel.fill(0, filled);
      this.transform(blackmanHarris(filled));
    }
    const scale = 1 / Math.max(1, this.pictures);
    const scaled = (power: Float64Array) => power.map((x) => x * scale);
    return {
      binHz: this.rateHz / SPECTRA_SIZE,
      source: scaled(this.source),
      decoded: scaled(this.decoded),
    };
  }

  /** Both sides with one transform, as its real and its imaginary part. */
  private transform(window: Float64Array): void {
    const { fft, input, output } = this;
    const scale = (2 / window.reduce((sum, w) => sum + w, 0)) ** 2 / 4;
    for (let c = 0; c < this.channelCount; c++) {
      const [own, other] = [this.held[0]![c]!, this.held[1]![c]!];
      input.fill(0);
      for (let i = 0; i < window.length; i++) {
        input[2 * i] = own[i]! * window[i]!;
        input[2 * i + 1] = other[i]! * window[i]!;
      }
      fft.transform(output as unknown as number[], input as unknown as number[]);
      for (let bin = 0; bin <= SPECTRA_SIZE / 2; bin++) {
        const mirror = bin === 0 ? 0 : SPECTRA_SIZE - bin;
        const [re, im] = [output[2 * bin]!, output[2 * bin + 1]!];
        const [mirrorRe, mirrorIm] = [output[2 * mirror]!, output[2 * mirror + 1]!];
        this.source[bin]! += ((re + mirrorRe) ** 2 + (im - mirrorIm) ** 2) * scale;
        this.decoded[bin]! += ((im + mirrorIm) ** 2 + (mirrorRe - re) ** 2) * scale;
      }
      this.pictures++;
    }
  }
}

/** What lies below both of these is empty: the floor of 16 bits, and far below the loudest. */
const FLOOR_DB = -120;
const RANGE_DB = 88;
/** A frequency is kept while no more than this is missing there. */
const MISSING_DB = 10;
/** Spectra are looked at through windows of that width. */
const SMOOTH_HZ = 100;

/** Up to where the source reaches, and up to where that is still there. Hz; null for silence. */
export interface BandwidthFigures {
  sourceBandwidthHz: number | null;
  bandwidthHz: number | null;
}

export function bandwidths({ binHz, source, decoded }: Spectra): BandwidthFigures {
  const reach = Math.max(1, Math.round(SMOOTH_HZ / 2 / binHz));
  const [own, kept] = [smoothed(source, reach), smoothed(decoded, reach)];
  const most = source.reduce((a, b) => Math.max(a, b), 0);
  const limit = Math.max(10 ** (FLOOR_DB / 10), most * 10 ** (-RANGE_DB / 10));
  // Smoothing alone would make a tone wider than it is.
  const isThere = (bin: number) => own[bin]! >= limit && source[bin]! >= limit;
  const share = 10 ** (-MISSING_DB / 10);
  const last = (holds: (bin: number) => boolean) => {
    for (let bin = own.length - 1; bin > 0; bin--) if (holds(bin)) return Math.round(bin * binHz);
    return null;
  };
  return {
    sourceBandwidthHz: last(isThere),
    bandwidthHz: last((bin) => isThere(bin) && kept[bin]! >= own[bin]! * share),
  };
}

/** Means over so many bins to both sides. */
function smoothed(power: Float64Array, reach: number): Float64Array {
  const sums = new Float64Array(power.length + 1);
  for (let bin = 0; bin < power.length; bin++) sums[bin + 1] = sums[bin]! + power[bin]!;
  return power.map((_, bin) => {
    const from = Math.max(0, bin - reach);
    const to = Math.min(power.length, bin + reach + 1);
    return (sums[to]! - sums[from]!) / (to - from);
  });
}
