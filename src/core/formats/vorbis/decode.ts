import { inBlocks, type Block } from '../../pcm/pcm';
import { fromVorbisOrder } from '../../pcm/speakers';
import { damagedFrames, damagedSound, noSound } from '../problems';
import type { Warning } from '../types';
import { FrameWindow } from '../window';

/** Decodes the bytes of an Ogg Vorbis stream from `startFrame` on, at most `frames` frames of it. */
export async function* decodeVorbis(
  bytes: AsyncIterable<Uint8Array>,
  warnings: Warning[],
  startFrame: number,
  channels: number,
  frames = Infinity,
): AsyncGenerator<Block> {
  const { OggVorbisDecoder } = await import('@wasm-audio-decoders/ogg-vorbis');
  const decoder = new OggVorbisDecoder();
  await decoder.ready;
  let failed = 0;
  const window = new FrameWindow(startFrame, frames);
  function* take(result: { channelData: Float32Array[]; errors: unknown[] }): Generator<Block> {
    failed += result.errors.length;
    if (result.channelData.length !== channels) return;
    const block = window.cut(fromVorbisOrder(result.channelData));
    if (block) yield* inBlocks(block);
  }
  try {
    for await (const piece of bytes) {
      yield* take(await decoder.decode(piece));
      if (window.isFull) break;
    }
    yield* take(await decoder.flush());
  } finally {
    decoder.free();
  }
  if (window.decoded === 0) throw failed > 0 ? damagedSound('Vorbis') : noSound('Vorbis');
  if (failed > 0) warnings.push(damagedFrames(failed));
}
