import { blockFrames, type Block, type PcmStream } from '../../pcm/pcm';
import { PACKET_FRAMES } from './decode';
import { aacPackets, configOf, mostKbps, SETTLING_PACKETS, type AacPacket } from './encode';
import type { KeptInput } from './keptInput';
import { aacDecoder } from './package';

/**
 * Now and then the encoder breaks a packet in the middle of a sound: its error is as loud as the sound, where that
 * of the packets around is far below. Packets stand on their own, so such a packet is exchanged for one of the same
 * place that was encoded with twice the bits, where that one is nearer to the sound.
 */
export async function* mendedPackets(
  batches: AsyncIterable<AacPacket[]> | Iterable<AacPacket[]>,
  input: KeptInput,
  pcm: PcmStream,
  kbps: number,
): AsyncGenerator<AacPacket[]> {
  const mender = new Mender(input, pcm, kbps);
  try {
    for await (const batch of batches) {
      await mender.take(batch);
      if (mender.isFull) yield await mender.given(false);
    }
    yield await mender.given(true);
  } finally {
    mender.free();
  }
}

/** An error that is so near to the sound around it is a break, in dB … */
const BREAK_DB = -2;
/** … where it stands out by so much from what is usual around. */
const STANDS_OUT_DB = 10;
/** What is usual: the middle of so many packets to each side. */
const LOOK_PACKETS = 8;
/** Packets that are looked at together. */
const CHUNK_PACKETS = 256;
/** Of so many packets one may be exchanged: where more stand out, that is how this sound comes out at this rate. */
const PACKETS_PER_MENDED = 32;
const LEAST_MENDED = 4;
/** The shapes of windows must fit those beside them: so many packets more to each side are tried. */
const MOST_MARGIN = 2;
/** Packets in front of those, for an encoder that begins in the middle of a sound. */
const LEAD_PACKETS = 2;
/** How far its input goes on behind a packet: what it leaves out, both halves of a window, and one to look ahead. */
const LOOK_AHEAD_PACKETS = SETTLING_PACKETS + 2;
/** An exchange that gains less is not made. */
const LEAST_GAIN_DB = 3;

/** Neighbouring packets' worth of sound that are broken, by the first and the last. */
interface Run {
  first: number;
  last: number;
  worstDb: number;
}

class Mender {
  /** Packets that have not been given, from number `start` on, and what is wrong with the sound that each ends. */
  private packets: AacPacket[] = [];
  private errorsDb: number[] = [];
  private start = 0;
  private judged = 0;
  private decoder: Awaited<ReturnType<typeof aacDecoder>> | null = null;

  constructor(
    private readonly input: KeptInput,
    private readonly pcm: PcmStream,
    private readonly kbps: number,
  ) {}

  get isFull(): boolean {
    return this.packets.length >= CHUNK_PACKETS + 2 * LOOK_PACKETS;
  }

  async take(batch: readonly AacPacket[]): Promise<void> {
    if (batch.length === 0) return;
    this.decoder ??= await aacDecoder(configOf(batch[0]!));
    const from = this.start + this.packets.length;
    this.packets.push(...batch);
    const { channelData } = this.decoder.decode(batch.map(([{ data }]) => data));
    // The decoder keeps its first packet back: nothing is said of what that one ends.
    if (from === 0) this.errorsDb.push(-Infinity);
    this.errorsDb.push(...this.judge(channelData, Math.max(1, from)));
  }

  /** Packets that no exchange can change any more: all of them at the end. */
  async given(isEnd: boolean): Promise<AacPacket[]> {
    const until = this.start + this.errorsDb.length - (isEnd ? 0 : LOOK_PACKETS);
    await this.mend(this.runs(until));
    this.judged = until;
    if (isEnd) return this.packets.splice(0);
    const count = Math.max(0, until - LOOK_PACKETS - this.start);
    this.errorsDb.splice(0, count);
    this.start += count;
    this.input.forget((this.start - MOST_MARGIN - LEAD_PACKETS - 1) * PACKET_FRAMES);
    return this.packets.splice(0, count);
  }

  free(): void {
    this.decoder?.free();
    this.decoder = null;
  }

  private judge(decoded: Block, first: number): number[] {
    const [from, to] = [inputFrame(first), inputFrame(first) + blockFrames(decoded)];
    return worstErrors(this.input.cut(from - CONTEXT_FRAMES, to + CONTEXT_FRAMES), decoded);
  }

  private runs(until: number): Run[] {
    const runs: Run[] = [];
    for (let at = Math.max(1, this.judged); at < until; at++) {
      const worstDb = this.errorsDb[at - this.start]!;
      if (worstDb < BREAK_DB || worstDb < this.usualAround(at) + STANDS_OUT_DB) continue;
      const open = runs.at(-1);
      if (open && at - open.last <= 1) {
        open.last = at;
        open.worstDb = Math.max(open.worstDb, worstDb);
      } else runs.push({ first: at, last: at, worstDb });
    }
    let left = Math.max(LEAST_MENDED, (until - this.judged) / PACKETS_PER_MENDED);
    const worstFirst = runs.sort((a, b) => b.worstDb - a.worstDb);
    return worstFirst.filter(({ first, last }) => (left -= last - first + 2) >= 0);
  }

  private usualAround(at: number): number {
    const near = this.errorsDb
      .slice(Math.max(0, at - LOOK_PACKETS - this.start), at + LOOK_PACKETS + 1 - this.start)
      .filter(Number.isFinite)
      .sort((a, b) => a - b);
    return near[near.length >> 1] ?? -Infinity;
  }

  /** Encodes what is broken once more, all of it in one go, and exchanges what came out better. */
  private async mend(runs: readonly Run[]): Promise<void> {
    const bitRate = Math.min(2 * this.kbps, mostKbps(this.pcm.rateHz, this.pcm.channelCount));
    if (runs.length === 0 || bitRate <= this.kbps) return;
    // The encoding leaves out its first packets, so what it gives begins where its input does.
    const spans = runs.map(({ first, last }) => ({
      from: first - 1 - MOST_MARGIN - LEAD_PACKETS,
      to: last + MOST_MARGIN + LOOK_AHEAD_PACKETS,
    }));
    const parts = spans.map(({ from, to }) =>
      this.input.cut(from * PACKET_FRAMES, to * PACKET_FRAMES),
    );
    const better: AacPacket[] = [];
    for await (const some of aacPackets(parts, this.pcm, bitRate)) better.push(...some);
    let at = 0;
    for (const [i, run] of runs.entries()) {
      const { from, to } = spans[i]!;
      await this.exchange(run, better.slice(at + LEAD_PACKETS, at + to - from));
      at += to - from;
    }
  }

  /** @param better packets from `MOST_MARGIN` before the one in front of the run to as many behind its last. */
  private async exchange({ first, last }: Run, better: readonly AacPacket[]): Promise<void> {
    const from = Math.max(this.start, first - 2 - MOST_MARGIN);
    const to = last + MOST_MARGIN + 2;
    const before = this.packets.slice(from - this.start, to - this.start);
    let best = { packets: before, worstDb: (await this.heard(before, from)) - LEAST_GAIN_DB };
    for (let margin = 0; margin <= MOST_MARGIN; margin++) {
      const packets = before.map((packet, i): AacPacket => {
        const place = from + i;
        if (place < first - 1 - margin || place > last + margin) return packet;
        const other = better[place - (first - 1 - MOST_MARGIN)];
        return other ? [other[0], packet[1]] : packet;
      });
      const worstDb = await this.heard(packets, from);
      if (worstDb < best.worstDb) best = { packets, worstDb };
      if (best.worstDb < BREAK_DB - STANDS_OUT_DB) break;
    }
    this.packets.splice(from - this.start, before.length, ...best.packets);
  }

  /** The worst error of what packets from number `from` on give: the first one gives nothing by itself. */
  private async heard(packets: readonly AacPacket[], from: number): Promise<number> {
    const decoder = await aacDecoder(configOf(this.packets[0]!));
    try {
      const { channelData } = decoder.decode(packets.map(([{ data }]) => data));
      return Math.max(...this.judge(channelData, from + 1));
    } finally {
      decoder.free();
    }
  }
}

/** Where in what was encoded the sound begins that a packet ends, together with the one in front of it. */
function inputFrame(packet: number): number {
  return (packet + SETTLING_PACKETS - 1) * PACKET_FRAMES;
}

const STEP_FRAMES = 128;
/** The sound around a step: so many steps to each side. */
const AROUND_STEPS = 4;
const CONTEXT_FRAMES = AROUND_STEPS * STEP_FRAMES;
/** What is quieter than −50 dBFS is not looked at. */
const LEAST_POWER = 1e-5;

/**
 * For each packet's worth of what was decoded the error of its worst step against the sound around that step, in dB;
 * −∞ where it is quiet. `sound` begins `CONTEXT_FRAMES` earlier and ends as much later.
 */
function worstErrors(sound: Block, decoded: Block): number[] {
  const steps = blockFrames(decoded) / STEP_FRAMES;
  const worst = new Array<number>(Math.floor(blockFrames(decoded) / PACKET_FRAMES)).fill(-Infinity);
  sound.forEach((channel, c) => {
    const power = Float64Array.from({ length: steps + 2 * AROUND_STEPS }, (_, k) =>
      energy(channel, k * STEP_FRAMES),
    );
    for (let k = 0; k < steps; k++) {
      let around = 0;
      for (let i = k; i <= k + 2 * AROUND_STEPS; i++) around += power[i]!;
      around /= 2 * AROUND_STEPS + 1;
      if (around < LEAST_POWER * STEP_FRAMES) continue;
      let error = 0;
      for (let i = k * STEP_FRAMES; i < (k + 1) * STEP_FRAMES; i++) {
        error += (decoded[c]![i]! - channel[i + CONTEXT_FRAMES]!) ** 2;
      }
      const packet = Math.floor((k * STEP_FRAMES) / PACKET_FRAMES);
      worst[packet] = Math.max(worst[packet]!, 10 * Math.log10(error / around));
    }
  });
  return worst;
}

function energy(channel: Float32Array, from: number): number {
  let sum = 0;
  for (let i = from; i < from + STEP_FRAMES; i++) sum += channel[i]! ** 2;
  return sum;
}
