import type { Block } from '../pcm/pcm';

/** The finest grid that float32 holds at full scale. */
const FINEST_BITS = 24;
const SCALE = 2 ** (FINEST_BITS - 1);

/** Finds how many bits the samples really use: the coarsest grid that all of them lie on. */
export class GridMeter {
  private seen = 0;
  private isOff = false;

  push(block: Block): void {
    if (this.isOff) return;
    for (const channel of block) {
      let seen = this.seen;
      for (let i = 0; i < channel.length; i++) {
        const scaled = channel[i]! * SCALE;
        const whole = scaled | 0;
        // Full scale itself and what lies beyond is on every grid that holds it.
        if (whole !== scaled) {
          this.isOff = true;
          return;
        }
        seen |= whole;
      }
      this.seen = seen;
    }
  }

  /** Bits in use; null where the samples lie on no grid of 24 bits. Silence uses none. */
  result(): { usedBits: number | null } {
    if (this.isOff) return { usedBits: null };
    if (this.seen === 0) return { usedBits: 0 };
    const trailing = 31 - Math.clz32(this.seen & -this.seen);
    return { usedBits: Math.max(1, FINEST_BITS - trailing) };
  }
}
