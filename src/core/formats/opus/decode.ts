import { blockFrames, type Block } from '../../pcm/pcm';
import { fromVorbisOrder } from '../../pcm/speakers';
import { damagedFrames, damagedSound, noSound } from '../problems';
import { quietly } from '../quiet';
import type { Warning } from '../types';
import { FrameWindow } from '../window';
import { OPUS_RATE, type OpusHead } from './head';
import { packetFrames } from './packet';

/** Packets decoded at a time: 50 × 20 ms stay below the largest block. */
const BATCH = 50;
/** What the decoder takes at most, per channel. */
const MOST_PACKET_BYTES = 3_840;

/**
 * Decodes packets and cuts pre-skip and end. `frames` is the length of the sound where it is known.
 * Packets that are damaged become silence of their length, so that nothing behind them moves.
 */
export async function* decodeOpus(
  packets: AsyncIterable<Uint8Array>,
  head: OpusHead,
  warnings: Warning[],
  { startFrame, frames }: { startFrame: number; frames: number | null },
): AsyncGenerator<Block> {
  const { OpusDecoder } = await import('opus-decoder');
  const decoder = new OpusDecoder({
    sampleRate: OPUS_RATE,
    channels: head.channels,
    streamCount: head.streamCount,
    coupledStreamCount: head.coupledCount,
    channelMappingTable: head.mapping,
  });
  await decoder.ready;
  const left = frames === null ? Infinity : frames - startFrame;
  const window = new FrameWindow(head.preSkip + startFrame, left);
  const gain = 10 ** (head.gainDb / 20);
  let failed = 0;
  let length = 960;
  async function* run(batch: Uint8Array[]): AsyncGenerator<Block> {
    if (batch.length === 0) return;
    const result = await quietly(() => decoder.decodeFrames(batch));
    failed += result.errors.length;
    yield* kept(fromVorbisOrder(result.channelData));
  }
  function* kept(block: Block): Generator<Block> {
    if (gain !== 1) for (const channel of block) channel.forEach((x, i) => (channel[i] = x * gain));
    const cut = blockFrames(block) > 0 ? window.cut(block) : null;
    if (cut) yield cut;
  }
  try {
    let batch: Uint8Array[] = [];
    for await (const packet of packets) {
      if (window.isFull) break;
      const duration =
        packet.length <= MOST_PACKET_BYTES * head.channels
          ? packetFrames(packet, head.streamCount)
          : null;
      if (duration === null) {
        failed++;
        yield* run(batch.splice(0));
        yield* kept(Array.from({ length: head.channels }, () => new Float32Array(length)));
        continue;
      }
      length = duration;
      batch.push(packet);
      if (batch.length === BATCH) {
        yield* run(batch);
        batch = [];
      }
    }
    yield* run(batch);
  } finally {
    decoder.free();
  }
  if (window.decoded === 0) throw failed > 0 ? damagedSound('Opus') : noSound('Opus');
  if (failed > 0) warnings.push(damagedFrames(failed));
}
