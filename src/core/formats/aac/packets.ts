import { blockFrames, type Block, type PcmStream } from '../../pcm/pcm';
import { leadIn, leadOut } from '../around';
import {
  aacPackets,
  LEAD_FRAMES,
  MOST_PACKET_BITS,
  PRIMING_FRAMES,
  type AacPacket,
} from './encode';
import { KeptInput } from './keptInput';
import { mendedPackets } from './mend';

/** Encodes a sound behind what stands in front of it: its priming is the first that is given. */
export async function* soundPackets(pcm: PcmStream, kbps: number): AsyncGenerator<AacPacket[]> {
  if (isShort(pcm)) return yield* shortPackets(pcm, kbps);
  const input = new KeptInput(pcm.channelCount);
  const given = input.through(framed(leadIn(pcm, LEAD_FRAMES), pcm.blocks, behind(pcm)));
  yield* mendedPackets(aacPackets(given, pcm, kbps), input, pcm, kbps);
}

async function* framed(
  lead: Block,
  blocks: AsyncIterable<Block> | Iterable<Block>,
  last: Block,
): AsyncGenerator<Block> {
  yield lead;
  yield* blocks;
  yield last;
}

const behind = (pcm: PcmStream) => leadOut(pcm, PRIMING_FRAMES);

const SHORT_SECONDS = 20;

/** Whether what the encoder spends too much at the beginning counts in the whole. */
function isShort({ frames, rateHz }: PcmStream): boolean {
  return frames !== null && frames <= SHORT_SECONDS * rateHz;
}

/** More than was asked for that is borne: a share of it, and what the codec itself may put off. */
const MOST_EXCESS = 0.2;
const PUT_OFF_BITS = 2 * MOST_PACKET_BITS;

/**
 * Behind silence the encoder begins well, but at some low bit rates with far too many bits. Where these count, what is
 * in front is the sound itself, mirrored: then it begins with as many as it goes on with.
 */
async function* shortPackets(pcm: PcmStream, kbps: number): AsyncGenerator<AacPacket[]> {
  const blocks: Block[] = [];
  for await (const block of pcm.blocks) blocks.push(block.map((channel) => channel.slice()));
  const frames = blocks.reduce((sum, block) => sum + blockFrames(block), 0);
  if (frames === 0) return;
  const encoded = async (lead: Block) => {
    const input = new KeptInput(pcm.channelCount);
    const packets: AacPacket[] = [];
    const given = input.through(framed(lead, blocks, behind(pcm)));
    for await (const some of aacPackets(given, pcm, kbps)) packets.push(...some);
    return { packets, input };
  };
  let { packets, input } = await encoded(leadIn(pcm, LEAD_FRAMES));
  const asked = (kbps * 1000 * frames) / pcm.rateHz;
  const bits = packets.reduce((sum, [{ data }]) => sum + data.length * 8, 0);
  const isBorne = bits <= asked * (1 + MOST_EXCESS) + PUT_OFF_BITS * pcm.channelCount;
  if (!isBorne && !pcm.around) {
    ({ packets, input } = await encoded(mirrored(blocks[0]!, LEAD_FRAMES)));
  }
  yield* mendedPackets([packets], input, pcm, kbps);
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
