import { crc8, nextCrc16 } from './checksums';
import { joinBytes } from '../bits';
import { headBytes, rateBytes, withRate } from './frameRate';

/** Longest head: four bytes, a number of seven, two for the size, two for the rate, a checksum. */
const MOST_HEAD_BYTES = 16;
/**
 * More than so many frames that are damaged, and more than a fifth of all, and no more are looked for:
 * where every few bytes look like the head of a frame, each would have to be followed.
 */
const MOST_DAMAGED = 200;

/** What by chance looks like a head inside of a frame is rare: one in eight million bytes. */
const MOST_HEADS = 2;

/** Frames that are handed on together, in samples of each channel. */
const MOST_SAMPLES = 1 << 14;

/** A frame that has begun. */
interface OpenFrame {
  /** How many of its bytes have been summed up, and to what. */
  scanned: number;
  sum: number;
  samples: number;
  /** What it can take at most, in bytes. */
  most: number;
  /** Where inside of it another may begin, −1 for nowhere, and at how many places. */
  next: number;
  heads: number;
  /** Behind which of its bytes its checksum held last; 0 for none. */
  end: number;
}

const statedBits = [0, 8, 12, -1, 16, 20, 24, 32];

/**
 * Cuts a stream of bytes into the frames whose checksums hold, and leaves out what is none: the decoder's own
 * search for frames takes longer and longer where there are many that only look like one. Frames that leave
 * their rate to STREAMINFO get one, for the decoder sees every frame for itself.
 */
export class FrameCutter {
  damaged = 0;
  private whole = 0;
  /** From where the open frame begins, or from the first byte that was not looked at. */
  private held = new Uint8Array(0);
  /** The open frame, if there is one: how much of it was summed up, and where another may begin in it. */
  private open: OpenFrame | null = null;

  constructor(private readonly info: { channels: number; bits: number }) {}

  /** Whether so much is damaged that looking further is of no use. */
  get isHopeless(): boolean {
    return this.damaged > MOST_DAMAGED + this.whole / 4;
  }

  /** The whole frames that `piece` completes, one behind the other, in parts of bearable length. */
  push(piece: Uint8Array): Uint8Array[] {
    const bytes = new Uint8Array(this.held.length + piece.length);
    bytes.set(this.held);
    bytes.set(piece, this.held.length);
    const parts: Uint8Array[] = [];
    let frames: Uint8Array[] = [];
    let samples = 0;
    let start = 0;
    while (start + MOST_HEAD_BYTES <= bytes.length && !this.isHopeless) {
      if (!this.open) {
        start = this.nextHead(bytes, start);
        if (start + MOST_HEAD_BYTES > bytes.length) break;
        const samples = samplesOf(bytes, start);
        this.open = {
          scanned: 0,
          sum: 0,
          samples,
          most: this.mostBytes(samples),
          next: -1,
          heads: 0,
          end: 0,
        };
      }
      const end = this.findEnd(bytes, start, this.open);
      if (end === null) break;
      if (end.frame) {
        frames.push(end.frame);
        samples += this.open.samples;
      }
      this.open = null;
      start = end.at;
      if (samples < MOST_SAMPLES) continue;
      parts.push(joinBytes(...frames));
      frames = [];
      samples = 0;
    }
    if (frames.length > 0) parts.push(joinBytes(...frames));
    this.held = bytes.slice(Math.min(start, bytes.length));
    return parts;
  }

  /** The last frames, without the tags that some programs put behind them. */
  rest(): Uint8Array[] {
    // Zeros stand where a head would be looked for.
    const parts = this.push(new Uint8Array(MOST_HEAD_BYTES));
    const { open, held } = this;
    if (!open) return parts;
    while (open.scanned < held.length && open.scanned <= open.most) {
      this.sumUp(open, held[open.scanned]!);
    }
    if (open.end > 0 && open.heads <= MOST_HEADS) parts.push(withRate(held.slice(0, open.end)));
    return parts;
  }

  /** Follows the open frame; null while it may go on. */
  private findEnd(
    bytes: Uint8Array,
    start: number,
    open: OpenFrame,
  ): { at: number; frame: Uint8Array | null } | null {
    // Every byte of the file goes through here: what changes with each is held in variables.
    let { scanned, sum, end } = open;
    const last = bytes.length - MOST_HEAD_BYTES;
    for (let at = start + scanned; at <= last; at++) {
      const byte = bytes[at]!;
      if (byte === 0xff && at > start && this.isHead(bytes, at)) {
        if (sum === 0 && open.heads <= MOST_HEADS) {
          this.whole++;
          return { at, frame: withRate(bytes.slice(start, at)) };
        }
        if (open.next < 0) open.next = at - start;
        open.heads++;
      }
      const next = nextCrc16(sum, byte);
      scanned++;
      // Zeros behind the end leave the sum as it is.
      if (next === 0 && sum !== 0) end = scanned;
      sum = next;
      if (scanned <= open.most) continue;
      Object.assign(open, { scanned, sum, end });
      return this.given(bytes, start, open);
    }
    Object.assign(open, { scanned, sum, end });
    return null;
  }

  private sumUp(open: OpenFrame, byte: number): void {
    const sum = nextCrc16(open.sum, byte);
    open.scanned++;
    // Zeros behind the end leave the sum as it is.
    if (sum === 0 && open.sum !== 0) open.end = open.scanned;
    open.sum = sum;
  }

  /** A frame with no other one behind it: it ends where its checksum held last, if it did. */
  private given(
    bytes: Uint8Array,
    start: number,
    open: OpenFrame,
  ): { at: number; frame: Uint8Array | null } {
    if (open.end > 0 && open.heads <= MOST_HEADS) {
      this.whole++;
      return { at: start + open.end, frame: withRate(bytes.slice(start, start + open.end)) };
    }
    this.damaged++;
    return { at: start + (open.next < 0 ? open.scanned : open.next), frame: null };
  }

  private nextHead(bytes: Uint8Array, from: number): number {
    for (let at = bytes.indexOf(0xff, from); at >= 0; at = bytes.indexOf(0xff, at + 1)) {
      if (at + MOST_HEAD_BYTES > bytes.length || this.isHead(bytes, at)) return at;
    }
    return bytes.length;
  }

  /** Whether a frame of this stream can begin there (RFC 9639, 9.1). */
  private isHead(bytes: Uint8Array, at: number): boolean {
    if (bytes[at] !== 0xff || (bytes[at + 1]! & 0xfe) !== 0xf8) return false;
    const [sizeCode, rateCode] = [bytes[at + 2]! >> 4, bytes[at + 2]! & 15];
    const layout = bytes[at + 3]! >> 4;
    const bits = statedBits[(bytes[at + 3]! >> 1) & 7]!;
    const isLegal =
      sizeCode !== 0 &&
      rateCode !== 15 &&
      (bytes[at + 3]! & 1) === 0 &&
      (layout < 8 ? layout + 1 : layout < 11 ? 2 : 0) === this.info.channels &&
      (bits === 0 || bits === this.info.bits);
    if (!isLegal) return false;
    const end = at + headBytes(bytes, at);
    return end <= bytes.length && crc8(bytes.subarray(at, end)) === 0;
  }

  /** What a frame takes when nothing in it is smaller than the plain samples. */
  private mostBytes(samples: number): number {
    const { channels, bits } = this.info;
    // A side channel has a bit more, and each channel a head.
    return Math.ceil((samples * channels * (bits + 1)) / 8) + channels * 8 + 2 * MOST_HEAD_BYTES;
  }
}

/** How many samples of each channel the frame at `at` has (RFC 9639, 9.1.1). */
function samplesOf(bytes: Uint8Array, at: number): number {
  const code = bytes[at + 2]! >> 4;
  if (code === 1) return 192;
  if (code < 6) return 576 << (code - 2);
  if (code > 7) return 256 << (code - 8);
  const end = at + headBytes(bytes, at) - 1 - rateBytes(bytes, at);
  const low = bytes[end - 1]! + 1;
  return code === 6 ? low : bytes[end - 2]! * 256 + low;
}
