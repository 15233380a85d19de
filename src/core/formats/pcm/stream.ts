import type { ByteSource } from '../../bytes/source';
import { BLOCK_FRAMES, type Block, type PcmStream } from '../../pcm/pcm';
import type { SampleKind } from './samples';

/** Where interleaved samples lie in a file. */
export interface PlainSound {
  sample: SampleKind;
  rateHz: number;
  channels: number;
  startByte: number;
  frames: number;
}

/** Streams interleaved samples, from any frame on. */
export function plainPcm(source: ByteSource, sound: PlainSound, startFrame = 0): PcmStream {
  const { sample, rateHz, channels, startByte, frames } = sound;
  const frameBytes = sample.bytes * channels;
  async function* blocks(): AsyncGenerator<Block> {
    for (let at = startFrame; at < frames;) {
      const count = Math.min(BLOCK_FRAMES, frames - at);
      const bytes = await source.read(startByte + at * frameBytes, count * frameBytes);
      const got = Math.floor(bytes.length / frameBytes);
      if (got === 0) return;
      yield sample.read(bytes, got, channels);
      at += got;
    }
  }
  return {
    rateHz,
    channelCount: channels,
    frames: frames - startFrame,
    gridBits: sample.codec === 'float' || sample.bits > 24 ? null : sample.bits,
    blocks: blocks(),
  };
}
