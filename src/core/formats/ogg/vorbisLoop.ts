import { blockFrames, type Block } from '../../pcm/pcm';
import { joinBytes } from '../bits';
import { OggPager, readPage, type OggPage } from './page';

/**
 * Vorbis has no field for what decoders have to leave out in front. But a stream may begin with any of its packets:
 * the first one gives no sound, the next ones as they would have. So a loop is encoded behind some of its other end,
 * with one packet that begins where the loop does, and the packets in front of that one are left out.
 */
export interface LoopPlace {
  /** Frames of the other end that are encoded in front. */
  leadFrames: number;
  /** Packets of sound that are left out again. */
  skipped: number;
}

interface Encoder {
  encode(block: Block): Uint8Array;
  finalize(): Uint8Array;
}

/** So often another length of what is in front is tried. */
const MOST_TRIES = 8;
/** In less than this the encoder does not settle. */
const LEAST_LEAD = 1_024;

/**
 * Finds a length of what is in front with which a packet begins where the loop does; null where there is none. `blocks`
 * are what comes behind, long enough for what the encoder looks ahead.
 */
export function findPlace(
  begin: () => Encoder,
  lead: (frames: number) => Block,
  blocks: readonly Block[],
  reach: number,
): LoopPlace | null {
  let leadFrames = reach;
  for (let tries = 0; tries < MOST_TRIES && leadFrames >= LEAST_LEAD; tries++) {
    const stream = new PacketStream();
    const encoder = begin();
    for (const block of [lead(leadFrames), ...blocks]) {
      if (blockFrames(block) > 0) stream.push(encoder.encode(block));
    }
    stream.push(encoder.finalize());
    if (!stream.isUnderstood) return null;
    const skipped = stream.ends.indexOf(leadFrames);
    if (skipped > 0) return { leadFrames, skipped };
    // With the last boundary in front of it as its beginning, all packets are likely to lie as before.
    leadFrames = Math.max(...stream.ends.filter((end) => end < leadFrames));
  }
  return null;
}

/** Bytes of a page, about. */
const PAGE_BYTES = 4_096;

/** Puts the packets of an encoded loop into pages of their own. */
export class LoopPages {
  private readonly stream = new PacketStream();
  private readonly pager: OggPager;
  private readonly waiting: { data: Uint8Array; end: number }[] = [];

  constructor(
    serial: number,
    private readonly comment: Uint8Array,
    private readonly place: LoopPlace,
  ) {
    this.pager = new OggPager(serial);
  }

  /** The finished pages that `bytes` completes. */
  push(bytes: Uint8Array): Uint8Array[] {
    const { skipped, leadFrames } = this.place;
    const out: Uint8Array[] = [];
    for (const { data, index, end } of this.stream.push(bytes)) {
      if (index === 0) out.push(...this.pager.pages([data], 0n));
      // The encoder knows no tags: its comments are exchanged.
      if (index === 2) out.push(...this.pager.pages([this.comment, data], 0n));
      const packet = index - HEADER_PACKETS;
      if (packet < skipped) continue;
      if (packet === skipped && end !== leadFrames) throw new Error('packets lie otherwise now');
      this.waiting.push({ data, end: end - leadFrames });
    }
    // What ends the sound is only known when all has come: the last packets wait.
    while (this.waitingBytes(0, -LAST_PACKETS) > PAGE_BYTES) out.push(...this.page());
    return out;
  }

  /** The rest: up to the packet in which the last of so many frames lies. */
  finish(frames: number): Uint8Array[] {
    const last = this.waiting.findIndex(({ end }) => end >= frames);
    if (last < 0) throw new Error('the Vorbis encoder gave too few packets');
    this.waiting.length = last + 1;
    const out: Uint8Array[] = [];
    while (this.waitingBytes(0, -1) > PAGE_BYTES) out.push(...this.page());
    const rest = this.waiting.map(({ data }) => data);
    return [...out, ...this.pager.pages(rest, BigInt(frames), true)];
  }

  private page(): Uint8Array[] {
    let count = 1;
    while (this.waitingBytes(0, count) < PAGE_BYTES) count++;
    const packets = this.waiting.splice(0, count);
    return this.pager.pages(
      packets.map(({ data }) => data),
      BigInt(packets.at(-1)!.end),
    );
  }

  private waitingBytes(from: number, to: number): number {
    return this.waiting.slice(from, to).reduce((sum, { data }) => sum + data.length, 0);
  }
}

const HEADER_PACKETS = 3;
/** More than lie behind the end of the sound: so many short blocks are no longer than what is given behind it. */
const LAST_PACKETS = 64;

/** The packets of a stream that comes in pieces, with where each ends (Vorbis I, 4.3). */
class PacketStream {
  /** Where each packet of sound ends, in frames: the first one gives none. */
  readonly ends: number[] = [];
  /** Whether all pages lie where they say. */
  isUnderstood = true;
  private rest: Uint8Array = new Uint8Array(0);
  private open: Uint8Array[] = [];
  private count = 0;
  private sizes: readonly [short: number, long: number] = [0, 0];
  private lastSize = 0;

  /** The packets that `bytes` completes. They are copies. */
  push(bytes: Uint8Array): { data: Uint8Array; index: number; end: number }[] {
    this.rest = joinBytes(this.rest, bytes);
    const out: { data: Uint8Array; index: number; end: number }[] = [];
    let at = 0;
    for (;;) {
      const page = readPage(this.rest, at);
      if (!page || at + page.bytes > this.rest.length) break;
      const payload = this.rest.slice(at + page.headerBytes, at + page.bytes);
      for (const data of this.packetsOf(page, payload)) {
        const index = this.count++;
        out.push({ data, index, end: this.look(data, index) });
      }
      const isSound = this.ends.length > 0 && page.granule >= 0n && !page.isLast;
      if (isSound && Number(page.granule) !== this.ends.at(-1)) this.isUnderstood = false;
      at += page.bytes;
    }
    this.rest = this.rest.subarray(at);
    return out;
  }

  private packetsOf({ lacing }: OggPage, payload: Uint8Array): Uint8Array[] {
    const whole: Uint8Array[] = [];
    let [from, at] = [0, 0];
    for (const size of lacing) {
      at += size;
      if (size === 255) continue;
      whole.push(joinBytes(...this.open, payload.subarray(from, at)));
      this.open = [];
      from = at;
    }
    if (from < at) this.open.push(payload.subarray(from, at));
    return whole;
  }

  private look(data: Uint8Array, index: number): number {
    if (index === 0) {
      // Both lengths of blocks as powers of 2.
      const packed = data[28]!;
      this.sizes = [2 ** (packed & 15), 2 ** (packed >> 4)];
    }
    if (index < HEADER_PACKETS) return 0;
    // A packet of sound: a bit that says so, then its mode, of which this encoder has two.
    const size = (data[0]! & 2) === 0 ? this.sizes[0] : this.sizes[1];
    const end = this.ends.length === 0 ? 0 : this.ends.at(-1)! + (this.lastSize + size) / 4;
    this.lastSize = size;
    this.ends.push(end);
    return end;
  }
}
