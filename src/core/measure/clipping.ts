import type { Block } from '../pcm/pcm';

/** A run of frames of one channel that lie at full scale. */
export interface ClippedRun {
  channel: number;
  startFrame: number;
  frames: number;
}

export interface Clipping {
  clippedRuns: number;
  /** The first hundred of them. */
  clippedPlaces: ClippedRun[];
}

/** From here on a sample counts as held at full scale: the largest integer of 8 bits lies below 1. */
const FULL_SCALE = { coarse: 127 / 128, fine: 32_766.5 / 32_768 };
/** Two samples at full scale may be chance; three in a row are a top that was cut off. */
const LEAST_FRAMES = 3;
const MOST_PLACES = 100;

/** Finds runs of samples at full scale. */
export class ClippingMeter {
  private readonly limit: number;
  private readonly runs: number[];
  private readonly signs: number[];
  private readonly places: ClippedRun[] = [];
  private count = 0;
  private at = 0;

  constructor(channelCount: number, bitDepth: number | null) {
    this.limit = bitDepth !== null && bitDepth <= 8 ? FULL_SCALE.coarse : FULL_SCALE.fine;
    this.runs = new Array<number>(channelCount).fill(0);
    this.signs = new Array<number>(channelCount).fill(0);
  }

  push(block: Block): void {
    const { limit } = this;
    block.forEach((channel, c) => {
      // Almost every sample of almost every sound ends at the first comparison.
      let sign = this.signs[c]!;
      for (let i = 0; i < channel.length; i++) {
        const x = channel[i]!;
        if (x < limit && x > -limit && sign === 0) continue;
        const now = x >= limit ? 1 : x <= -limit ? -1 : 0;
        if (now !== sign) {
          this.close(c, this.at + i);
          sign = now;
        }
        if (now !== 0) this.runs[c]!++;
      }
      this.signs[c] = sign;
    });
    this.at += block[0]?.length ?? 0;
  }

  private close(channel: number, endFrame: number): void {
    const frames = this.runs[channel]!;
    this.runs[channel] = 0;
    if (frames < LEAST_FRAMES) return;
    this.count++;
    if (this.places.length < MOST_PLACES) {
      this.places.push({ channel, startFrame: endFrame - frames, frames });
    }
  }

  result(): Clipping {
    this.runs.forEach((_, c) => this.close(c, this.at));
    const places = [...this.places].sort((a, b) => a.startFrame - b.startFrame);
    return { clippedRuns: this.count, clippedPlaces: places };
  }
}
