import type { AudioSampleInit, EncodedPacket } from 'mediabunny';
import { blockFrames, sliceBlock, type Block, type PcmStream } from '../../pcm/pcm';
import { leadIn, leadOut } from '../around';
import { PACKET_FRAMES } from './decode';

/** What stands in front of a sound: the encoder's own delay, and a packet in which it gets under way. */
export const PRIMING_FRAMES = 2 * PACKET_FRAMES;

/**
 * The encoder breaks what begins in its very first packet, and finds its bit rate in the next ones. Packets stand on
 * their own: so many are made of what is in front of the sound, and left out again.
 */
const SETTLING_PACKETS = 4;
/** What is encoded in front of a sound. */
export const LEAD_FRAMES = SETTLING_PACKETS * PACKET_FRAMES + PRIMING_FRAMES - PACKET_FRAMES;

/** The encoder moves what it has left for every packet that it makes: it is given a few packets' worth at a time. */
const GIVEN_FRAMES = 4_096;

/** A packet with what it is. */
export type AacPacket = [EncodedPacket, EncodedAudioChunkMetadata | undefined];

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

/** What stands around a sound and the sound, in order. */
export async function* framed(
  lead: Block,
  blocks: AsyncIterable<Block> | Iterable<Block>,
  behind: Block,
): AsyncGenerator<Block> {
  yield lead;
  yield* blocks;
  yield behind;
}

const SHORT_SECONDS = 20;

/** Whether what the encoder spends too much at the beginning counts in the whole. */
export function isShort({ frames, rateHz }: PcmStream): boolean {
  return frames !== null && frames <= SHORT_SECONDS * rateHz;
}

/** More than was asked for that is borne: a share of it, and what the codec itself may put off. */
const MOST_EXCESS = 0.2;
const PUT_OFF_BITS = 2 * 6_144;

/**
 * Behind silence the encoder begins well, but at some low bit rates with far too many bits. Where these count, what is
 * in front is the sound itself, mirrored: then it begins with as many as it goes on with.
 */
export async function shortPackets(
  pcm: PcmStream,
  blocks: readonly Block[],
  kbps: number,
): Promise<AacPacket[]> {
  const encoded = async (lead: Block) => {
    const packets: AacPacket[] = [];
    const inOrder = framed(lead, blocks, leadOut(pcm, PRIMING_FRAMES));
    for await (const some of aacPackets(inOrder, pcm, kbps)) packets.push(...some);
    return packets;
  };
  const packets = await encoded(leadIn(pcm, LEAD_FRAMES));
  const asked = kbps * 1000 * (blocks.reduce((sum, one) => sum + blockFrames(one), 0) / pcm.rateHz);
  const bits = packets.reduce((sum, [{ data }]) => sum + data.length * 8, 0);
  const isBorne = bits <= asked * (1 + MOST_EXCESS) + PUT_OFF_BITS * pcm.channelCount;
  return isBorne || pcm.around ? packets : encoded(mirrored(blocks[0]!, LEAD_FRAMES));
}

/** What a block begins with, the other way round; a shorter one is turned round again. */
function mirrored(block: Block, frames: number): Block {
  const length = blockFrames(block);
  return block.map((channel) =>
    Float32Array.from({ length: frames }, (_, i) => {
      const at = (frames - 1 - i) % (2 * length);
      return channel[at < length ? at : 2 * length - 1 - at]!;
    }),
  );
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
