import type { AudioSampleInit, EncodedPacket } from 'mediabunny';
import { blockFrames, sliceBlock, type Block, type PcmStream } from '../../pcm/pcm';
import { PACKET_FRAMES } from './decode';

/** What stands in front of a sound: the encoder's own delay, and a packet in which it gets under way. */
export const PRIMING_FRAMES = 2 * PACKET_FRAMES;

/**
 * The encoder breaks what begins in its very first packet, and finds its bit rate in the next ones. Packets stand on
 * their own: so many are made of what is in front of the sound, and left out again.
 */
export const SETTLING_PACKETS = 4;
/** What is encoded in front of a sound. */
export const LEAD_FRAMES = SETTLING_PACKETS * PACKET_FRAMES + PRIMING_FRAMES - PACKET_FRAMES;

/** Of a channel. */
export const MOST_PACKET_BITS = 6_144;

/** The encoder moves what it has left for every packet that it makes: it is given a few packets' worth at a time. */
const GIVEN_FRAMES = 4_096;

/** A packet with what it is. */
export type AacPacket = [EncodedPacket, EncodedAudioChunkMetadata | undefined];

/** What a decoder has to know of a packet: AudioSpecificConfig (ISO/IEC 14496-3, 1.6.2.1). */
export function configOf([, about]: AacPacket): Uint8Array {
  const description = about?.decoderConfig?.description;
  if (!description) throw new Error('the AAC encoder did not describe what it gives');
  return ArrayBuffer.isView(description)
    ? new Uint8Array(description.buffer, description.byteOffset, description.byteLength).slice()
    : new Uint8Array(description).slice();
}

/** ISO/IEC 14496-3: a packet holds at most 6144 bits a channel. */
export function mostKbps(rateHz: number, channels: number): number {
  return Math.floor((MOST_PACKET_BITS * channels * rateHz) / PACKET_FRAMES / 1000);
}

/** Encodes blocks that begin with a lead of `LEAD_FRAMES`; the packets that settle the encoder are left out. */
export async function* aacPackets(
  blocks: AsyncIterable<Block> | Iterable<Block>,
  { rateHz }: PcmStream,
  kbps: number,
): AsyncGenerator<AacPacket[]> {
  const { registerAacEncoder } = await import('@mediabunny/aac-encoder');
  const { AudioSample, AudioSampleSource, Mp4OutputFormat, NullTarget, Output } =
    await import('mediabunny');
  registerAacEncoder();
  const encoded: AacPacket[] = [];
  let settling = SETTLING_PACKETS;
  let about: AacPacket[1];
  const source = new AudioSampleSource({
    codec: 'aac',
    bitrate: kbps * 1000,
    onEncodedPacket: (packet, meta) => {
      // What the packets are is said with the first one, which is left out.
      about ??= meta;
      if (settling-- <= 0) encoded.push([packet, about]);
    },
  });
  // The encoder is driven through an output that keeps nothing; its packets go into our own file.
  const drive = new Output({
    format: new Mp4OutputFormat({ fastStart: false }),
    target: new NullTarget(),
  });
  drive.addAudioTrack(source);
  try {
    await drive.start();
    let given = 0;
    for await (const block of blocks) {
      for (let at = 0; at < blockFrames(block); at += GIVEN_FRAMES) {
        const part = sliceBlock(block, at, Math.min(at + GIVEN_FRAMES, blockFrames(block)));
        const sample = new AudioSample(planar(part, rateHz, given));
        given += blockFrames(part);
        await source.add(sample);
        sample.close();
      }
      yield encoded.splice(0);
    }
    await drive.finalize();
    yield encoded.splice(0);
  } finally {
    // Ends the encoder's worker thread, also when something above failed.
    if (drive.state !== 'finalized') await drive.cancel().catch(() => undefined);
  }
}

function planar(block: Block, rateHz: number, atFrame: number): AudioSampleInit {
  const frames = blockFrames(block);
  const data = new Float32Array(frames * block.length);
  block.forEach((channel, c) => data.set(channel, c * frames));
  return {
    data,
    format: 'f32-planar',
    numberOfChannels: block.length,
    sampleRate: rateHz,
    timestamp: atFrame / rateHz,
  };
}
