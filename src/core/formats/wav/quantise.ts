import { TpdfDither } from '../../dsp/dither';
import type { Block } from '../../pcm/pcm';

/** Turns planar float blocks into interleaved little-endian integers of 16 or 24 bits. */
export class Quantiser {
  clippedSamples = 0;
  private readonly dither: TpdfDither | null;

  constructor(
    private readonly bits: 16 | 24,
    dithered: boolean,
  ) {
    this.dither = dithered ? new TpdfDither() : null;
  }

  bytes(block: Block): Uint8Array {
    const frames = block[0]?.length ?? 0;
    const size = this.bits / 8;
    const out = new Uint8Array(frames * block.length * size);
    const scale = 2 ** (this.bits - 1);
    const top = scale - 1;
    const { dither } = this;
    let at = 0;
    for (let i = 0; i < frames; i++) {
      for (const channel of block) {
        let value = Math.round(channel[i]! * scale + (dither ? dither.next() : 0));
        if (value > top) {
          // Full scale itself is one step beyond the largest integer; only more than that is clipping.
          if (channel[i]! > 1) this.clippedSamples++;
          value = top;
        } else if (value < -scale) {
          if (channel[i]! < -1) this.clippedSamples++;
          value = -scale;
        }
        out[at++] = value;
        out[at++] = value >> 8;
        if (size === 3) out[at++] = value >> 16;
      }
    }
    return out;
  }
}
