import type { Block } from '../pcm/pcm';
import { toDb } from './decibels';

/** Levels of a whole sound. `null` stands for silence, whose level has no number. */
export interface Levels {
  /** Largest absolute sample of all channels. */
  peakDbfs: number | null;
  /** Root mean square over all channels; a full-scale sine has −3.01 dBFS. */
  rmsDbfs: number | null;
  /** Correlation of the first two channels, −1 … 1; null for mono or silence. */
  correlation: number | null;
  /** The channel mean that lies farthest from 0, full scale being 1. */
  dcOffset: number;
  /** Whether all channels, two at least, hold the very same samples. */
  identicalChannels: boolean;
}

/** Collects levels block by block. */
export class LevelMeter {
  frames = 0;
  private peak = 0;
  private readonly squares: number[];
  private readonly sums: number[];
  private products = 0;
  private isIdentical: boolean;

  constructor(channelCount: number) {
    this.squares = new Array<number>(channelCount).fill(0);
    this.sums = new Array<number>(channelCount).fill(0);
    this.isIdentical = channelCount > 1;
  }

  push(block: Block): void {
    block.forEach((channel, c) => {
      let peak = this.peak;
      let squares = 0;
      let sum = 0;
      for (let i = 0; i < channel.length; i++) {
        const x = channel[i]!;
        const size = x < 0 ? -x : x;
        if (size > peak) peak = size;
        squares += x * x;
        sum += x;
      }
      this.peak = peak;
      this.squares[c]! += squares;
      this.sums[c]! += sum;
    });
    const [left, right] = block;
    if (left && right) {
      let products = 0;
      for (let i = 0; i < left.length; i++) products += left[i]! * right[i]!;
      this.products += products;
    }
    if (this.isIdentical) this.isIdentical = block.slice(1).every((other) => same(left!, other));
    this.frames += block[0]?.length ?? 0;
  }

  result(): Levels {
    const total = this.squares.reduce((sum, s) => sum + s, 0);
    const samples = this.frames * this.squares.length;
    const [left = 0, right = 0] = this.squares;
    const both = Math.sqrt(left * right);
    const means = this.sums.map((sum) => (this.frames > 0 ? sum / this.frames : 0));
    return {
      peakDbfs: toDb(this.peak),
      rmsDbfs: samples > 0 ? toDb(Math.sqrt(total / samples)) : null,
      correlation: both > 0 ? Math.max(-1, Math.min(1, this.products / both)) : null,
      dcOffset: means.reduce((far, mean) => (Math.abs(mean) > Math.abs(far) ? mean : far), 0),
      identicalChannels: this.isIdentical && this.frames > 0,
    };
  }
}

function same(a: Float32Array, b: Float32Array): boolean {
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}
