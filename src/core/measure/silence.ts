import type { Block } from '../pcm/pcm';

export interface Silence {
  /** Before anything is louder than the threshold; the whole length when nothing is. */
  headSilenceSeconds: number;
  /** Behind the last that is. */
  tailSilenceSeconds: number;
}

/** −60 dBFS: below it a room is quiet. */
const THRESHOLD = 0.001;

/** Finds where the sound begins and ends. */
export class SilenceMeter {
  private first = -1;
  private last = -1;
  private at = 0;

  constructor(private readonly rateHz: number) {}

  push(block: Block): void {
    const frames = block[0]?.length ?? 0;
    for (const channel of block) {
      if (this.first < 0 || this.first > this.at) {
        const found = channel.findIndex((x) => x > THRESHOLD || x < -THRESHOLD);
        if (found >= 0 && (this.first < 0 || this.at + found < this.first)) {
          this.first = this.at + found;
        }
      }
      for (let i = frames - 1; i >= 0 && this.at + i > this.last; i--) {
        const x = channel[i]!;
        if (x > THRESHOLD || x < -THRESHOLD) this.last = this.at + i;
      }
    }
    this.at += frames;
  }

  result(): Silence {
    if (this.first < 0) {
      const whole = this.at / this.rateHz;
      return { headSilenceSeconds: whole, tailSilenceSeconds: whole };
    }
    return {
      headSilenceSeconds: this.first / this.rateHz,
      tailSilenceSeconds: (this.at - 1 - this.last) / this.rateHz,
    };
  }
}
