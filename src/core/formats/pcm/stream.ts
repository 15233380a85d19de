import type { ByteSource } from '../../bytes/source';
import { BLOCK_FRAMES, type Block, type PcmStream } from '../../pcm/pcm';
import { notFinite } from '../problems';
import type { Warning } from '../types';
import type { SampleKind } from './samples';

/** Where interleaved samples lie in a file. */
export interface PlainSound {
  sample: SampleKind;
  rateHz: number;
  channels: number;
  startByte: number;
  frames: number;
}

/** Streams interleaved samples, from any frame on. What is no number is said once, at the end. */
export function plainPcm(
  source: ByteSource,
  sound: PlainSound,
  warnings: Warning[],
  startFrame = 0,
): PcmStream {
  const { sample, rateHz, channels, startByte, frames } = sound;
  const frameBytes = sample.bytes * channels;
  async function* blocks(): AsyncGenerator<Block> {
    let lost = 0;
    for (let at = startFrame; at < frames;) {
      const count = Math.min(BLOCK_FRAMES, frames - at);
      const bytes = await source.read(startByte + at * frameBytes, count * frameBytes);
      const got = Math.floor(bytes.length / frameBytes);
      if (got === 0) break;
      yield sample.read(bytes, got, channels, (samples) => (lost += samples));
      at += got;
    }
    const isSaid = warnings.some(({ code }) => code === 'not-finite');
    if (lost > 0 && !isSaid) warnings.push(notFinite(lost));
  }
  return {
    rateHz,
    channelCount: channels,
    frames: frames - startFrame,
    gridBits: sample.codec === 'float' || sample.bits > 24 ? null : sample.bits,
    blocks: blocks(),
  };
}
