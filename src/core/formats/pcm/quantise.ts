import { TpdfDither } from '../../dsp/dither';
import { blockFrames, type Block, type PcmStream } from '../../pcm/pcm';
import type { Encoding } from './samples';

type Put = (out: Uint8Array, at: number, value: number) => void;

/** How integers of each encoding are laid into bytes. */
const layouts = {
  u8: { bits: 8, put: (out, at, value) => (out[at] = value + 128) },
  s8: { bits: 8, put: (out, at, value) => (out[at] = value) },
  s16le: {
    bits: 16,
    put(out, at, value) {
      out[at] = value;
      out[at + 1] = value >> 8;
    },
  },
  s16be: {
    bits: 16,
    put(out, at, value) {
      out[at] = value >> 8;
      out[at + 1] = value;
    },
  },
  s24le: {
    bits: 24,
    put(out, at, value) {
      out[at] = value;
      out[at + 1] = value >> 8;
      out[at + 2] = value >> 16;
    },
  },
  s24be: {
    bits: 24,
    put(out, at, value) {
      out[at] = value >> 16;
      out[at + 1] = value >> 8;
      out[at + 2] = value;
    },
  },
} satisfies Partial<Record<Encoding, { bits: number; put: Put }>>;

export type WrittenEncoding = keyof typeof layouts;

/**
 * Turns planar float blocks into integers of `bits` bits, with TPDF dither, and full scale for what is louder. A sample
 * that lies on that grid gets no dither: what fits stays what it is, silence stays silent and a fade ends in nothing.
 * Dither makes the mean error independent of the signal (Lipshitz, Wannamaker and Vanderkooy, 1992); no error keeps
 * that mean, so nothing is distorted.
 */
export class Quantiser {
  clippedSamples = 0;
  private readonly dither: TpdfDither | null;

  constructor(
    readonly bits: number,
    pcm: Pick<PcmStream, 'gridBits'>,
  ) {
    const fits = pcm.gridBits !== null && pcm.gridBits <= bits;
    this.dither = fits ? null : new TpdfDither();
  }

  /** The integers of a block, interleaved. */
  integers(block: Block): Int32Array<ArrayBuffer> {
    const out = new Int32Array(blockFrames(block) * block.length);
    this.put(block, out, 0);
    return out;
  }

  /** Puts the integers of a block into `out` from `start` on, interleaved. */
  put(block: Block, out: Int32Array | Int16Array, start: number): void {
    const scale = 2 ** (this.bits - 1);
    const top = scale - 1;
    const count = block.length;
    // Dither belongs to the samples in the order of the file.
    const noise = this.dither?.take(blockFrames(block) * count);
    for (let c = 0; c < count; c++) {
      const channel = block[c]!;
      if (noise) {
        for (let i = 0, at = c; i < channel.length; i++, at += count) {
          const x = channel[i]!;
          const steps = x * scale;
          const whole = Math.floor(steps);
          const value = steps === whole ? whole : Math.floor(steps + noise[at]! + 0.5);
          if (value <= top && value >= -scale) out[start + at] = value;
          else out[start + at] = this.held(value, x, scale, top);
        }
      } else {
        for (let i = 0, at = start + c; i < channel.length; i++, at += count) {
          const value = Math.floor(channel[i]! * scale + 0.5);
          if (value <= top && value >= -scale) out[at] = value;
          else out[at] = this.held(value, channel[i]!, scale, top);
        }
      }
    }
  }

  /** Full scale itself is one step beyond the largest integer; only more than that is clipping. */
  private held(value: number, x: number, scale: number, top: number): number {
    if (value > top) {
      if (x > 1) this.clippedSamples++;
      return top;
    }
    if (value < -scale) {
      if (x < -1) this.clippedSamples++;
      return -scale;
    }
    return value;
  }
}

/** Interleaved bytes of one encoding. */
export class SampleWriter {
  private readonly quantiser: Quantiser;
  private readonly put: Put;
  private readonly size: number;

  constructor(encoding: WrittenEncoding, pcm: Pick<PcmStream, 'gridBits'>) {
    const { bits, put } = layouts[encoding];
    this.quantiser = new Quantiser(bits, pcm);
    this.put = put;
    this.size = bits / 8;
  }

  get clippedSamples(): number {
    return this.quantiser.clippedSamples;
  }

  bytes(block: Block): Uint8Array {
    const values = this.quantiser.integers(block);
    const { put, size } = this;
    const out = new Uint8Array(values.length * size);
    for (let i = 0, at = 0; i < values.length; i++, at += size) put(out, at, values[i]!);
    return out;
  }
}
