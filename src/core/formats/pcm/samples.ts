import type { Block } from '../../pcm/pcm';

/** One way in which files store a sample. Integers become ±1 by division by their full scale. */
export interface SampleKind {
  codec: 'pcm' | 'float' | 'alaw' | 'ulaw';
  /** Bits of the integer grid, or of the float. */
  bits: number;
  bytes: number;
  /** De-interleaves `frames` frames. Floats that are no numbers become 0 and are counted to `lost`. */
  read(
    bytes: Uint8Array,
    frames: number,
    channels: number,
    lost?: (samples: number) => void,
  ): Block;
}

type ReadSample = (view: DataView, bytes: Uint8Array, at: number) => number;

function kind(
  codec: SampleKind['codec'],
  bits: number,
  size: number,
  sample: ReadSample,
): SampleKind {
  return {
    codec,
    bits,
    bytes: size,
    read(bytes, frames, channels, lost) {
      const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
      const block = Array.from({ length: channels }, (_, c) => {
        const out = new Float32Array(frames);
        for (let i = 0, at = c * size; i < frames; i++, at += size * channels) {
          out[i] = sample(view, bytes, at);
        }
        return out;
      });
      const bad = codec === 'float' ? block.reduce((sum, out) => sum + zeroed(out), 0) : 0;
      if (bad > 0) lost?.(bad);
      return block;
    },
  };
}

/** Files hold NaN, infinities and numbers beyond float32; nothing behind the reader has to expect them. */
function zeroed(samples: Float32Array): number {
  let count = 0;
  for (let i = 0; i < samples.length; i++) {
    const x = samples[i]!;
    if (x <= MOST_FLOAT && x >= -MOST_FLOAT) continue;
    samples[i] = 0;
    count++;
  }
  return count;
}
const MOST_FLOAT = 1e9;

const int = (bits: number, sample: ReadSample) => kind('pcm', bits, bits / 8, sample);
const float = (bits: number, sample: ReadSample) => kind('float', bits, bits / 8, sample);
const FULL_32 = 2_147_483_648;

/** Expands A-law to 13 bits and µ-law to 14 (ITU-T G.711), held on a 16-bit grid. */
function alaw(byte: number): number {
  const code = byte ^ 0x55;
  const segment = (code & 0x70) >> 4;
  const mantissa = (code & 0x0f) << 4;
  const size = segment === 0 ? mantissa + 8 : (mantissa + 0x108) << (segment - 1);
  return code & 0x80 ? size : -size;
}

function ulaw(byte: number): number {
  const code = ~byte & 0xff;
  const size = ((((code & 0x0f) << 3) + 0x84) << ((code & 0x70) >> 4)) - 0x84;
  return code & 0x80 ? -size : size;
}

const lawTable = (expand: (byte: number) => number) =>
  Float32Array.from({ length: 256 }, (_, byte) => expand(byte) / 32_768);
const alawTable = lawTable(alaw);
const ulawTable = lawTable(ulaw);

/** Every encoding of plain samples, by the name that the trade gives it. */
export const sampleKinds = {
  u8: int(8, (_, bytes, at) => (bytes[at]! - 128) / 128),
  s8: int(8, (view, _, at) => view.getInt8(at) / 128),
  s16le: int(16, (view, _, at) => view.getInt16(at, true) / 32_768),
  s16be: int(16, (view, _, at) => view.getInt16(at) / 32_768),
  s24le: int(24, (_, b, at) => ((b[at]! << 8) | (b[at + 1]! << 16) | (b[at + 2]! << 24)) / FULL_32),
  s24be: int(24, (_, b, at) => ((b[at + 2]! << 8) | (b[at + 1]! << 16) | (b[at]! << 24)) / FULL_32),
  s32le: int(32, (view, _, at) => view.getInt32(at, true) / FULL_32),
  s32be: int(32, (view, _, at) => view.getInt32(at) / FULL_32),
  f32le: float(32, (view, _, at) => view.getFloat32(at, true)),
  f32be: float(32, (view, _, at) => view.getFloat32(at)),
  f64le: float(64, (view, _, at) => view.getFloat64(at, true)),
  f64be: float(64, (view, _, at) => view.getFloat64(at)),
  alaw: kind('alaw', 16, 1, (_, bytes, at) => alawTable[bytes[at]!]!),
  ulaw: kind('ulaw', 16, 1, (_, bytes, at) => ulawTable[bytes[at]!]!),
} satisfies Record<string, SampleKind>;

export type Encoding = keyof typeof sampleKinds;
export const encodings = Object.keys(sampleKinds) as readonly Encoding[];

/** Bits per sample as people state them: companded samples have none of their own. */
export function statedBits(sample: SampleKind): number | null {
  return sample.codec === 'alaw' || sample.codec === 'ulaw' ? null : sample.bits;
}
