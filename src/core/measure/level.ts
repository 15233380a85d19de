import type { Block } from '../pcm/pcm';

/** Levels of a whole sound. `null` stands for silence, whose level has no number. */
export interface Levels {
  /** Largest absolute sample of all channels. */
  peakDbfs: number | null;
  /** Root mean square over all channels; a full-scale sine has −3.01 dBFS. */
  rmsDbfs: number | null;
  /** Correlation of the first two channels, −1 … 1; null for mono or silence. */
  correlation: number | null;
}

function toDbfs(amplitude: number): number | null {
  return amplitude > 0 ? 20 * Math.log10(amplitude) : null;
}

/** Collects levels block by block. */
export class LevelMeter {
  frames = 0;
  private peak = 0;
  private readonly squares: number[];
  private products = 0;

  constructor(channelCount: number) {
    this.squares = new Array<number>(channelCount).fill(0);
  }

  push(block: Block): void {
    block.forEach((channel, c) => {
      let peak = this.peak;
      let squares = 0;
      for (let i = 0; i < channel.length; i++) {
        const x = channel[i]!;
        const size = x < 0 ? -x : x;
        if (size > peak) peak = size;
        squares += x * x;
      }
      this.peak = peak;
      this.squares[c]! += squares;
    });
    const [left, right] = block;
    if (left && right) {
      let products = 0;
      for (let i = 0; i < left.length; i++) products += left[i]! * right[i]!;
      this.products += products;
    }
    this.frames += block[0]?.length ?? 0;
  }

  levels(): Levels {
    const total = this.squares.reduce((sum, s) => sum + s, 0);
    const samples = this.frames * this.squares.length;
    const [left = 0, right = 0] = this.squares;
    const both = Math.sqrt(left * right);
    return {
      peakDbfs: toDbfs(this.peak),
      rmsDbfs: samples > 0 ? toDbfs(Math.sqrt(total / samples)) : null,
      correlation: both > 0 ? Math.max(-1, Math.min(1, this.products / both)) : null,
    };
  }
}
