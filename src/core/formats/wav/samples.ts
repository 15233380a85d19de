import type { Block } from '../../pcm/pcm';

/** One way in which WAV stores a sample. Integers become ±1 by division by their full scale. */
export interface SampleKind {
  codec: 'pcm' | 'float';
  float: boolean;
  bits: number;
  bytes: number;
  /** De-interleaves `frames` frames. */
  read(bytes: Uint8Array, frames: number, channels: number): Block;
}

type ReadSample = (view: DataView, bytes: Uint8Array, at: number) => number;

function kind(bits: number, float: boolean, sample: ReadSample): SampleKind {
  const size = bits / 8;
  return {
    codec: float ? 'float' : 'pcm',
    float,
    bits,
    bytes: size,
    read(bytes, frames, channels) {
      const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
      return Array.from({ length: channels }, (_, c) => {
        const out = new Float32Array(frames);
        for (let i = 0, at = c * size; i < frames; i++, at += size * channels) {
          out[i] = sample(view, bytes, at);
        }
        return out;
      });
    },
  };
}

/** Files hold NaN and infinities too; nothing behind the reader has to expect them. */
function finite(x: number): number {
  return Number.isFinite(x) ? x : 0;
}

export const sampleKinds: readonly SampleKind[] = [
  // 8-bit WAV is unsigned with its middle at 128.
  kind(8, false, (_, bytes, at) => (bytes[at]! - 128) / 128),
  kind(16, false, (view, _, at) => view.getInt16(at, true) / 32_768),
  kind(
    24,
    false,
    (_, bytes, at) =>
      ((bytes[at]! << 8) | (bytes[at + 1]! << 16) | (bytes[at + 2]! << 24)) / 2_147_483_648,
  ),
  kind(32, false, (view, _, at) => view.getInt32(at, true) / 2_147_483_648),
  kind(32, true, (view, _, at) => finite(view.getFloat32(at, true))),
  kind(64, true, (view, _, at) => finite(view.getFloat64(at, true))),
];
