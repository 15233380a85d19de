/**
 * Frame heads of FLAC can state a sample rate in few bits only (RFC 9639, 9.1.2). A frame whose head leaves
 * it to STREAMINFO may have any; the encoder does not write such heads, so they are made of ordinary ones.
 */

/** A rate with a code of its own, for which the encoder writes heads without further bytes for the rate. */
export const CODED_RATE_HZ = 48_000;

/** Whether a frame's head can state a rate: in kHz, in Hz, or in tens of Hz. */
export function isStatedInFrames(rateHz: number): boolean {
  if (rateHz <= 65_535) return true;
  return rateHz <= 655_350 && rateHz % 10 === 0;
}

/** Leaves the rate of a whole frame that was encoded at `CODED_RATE_HZ` to STREAMINFO. In place. */
export function withoutRate(frame: Uint8Array): Uint8Array {
  return withRateCode(frame, 0);
}

/** The code of `CODED_RATE_HZ`. */
const RATE_CODE = 10;

function withRateCode(frame: Uint8Array, code: number): Uint8Array {
  frame[2] = (frame[2]! & 0xf0) | code;
  const head = headBytes(frame, 0);
  frame[head - 1] = crc8(frame.subarray(0, head - 1));
  const sum = crc16(frame.subarray(0, frame.length - 2));
  frame[frame.length - 2] = sum >> 8;
  frame[frame.length - 1] = sum & 0xff;
  return frame;
}

/** Length of the head at `at`, its checksum included, where its rate takes no bytes of its own. */
function headBytes(bytes: Uint8Array, at: number): number {
  const first = bytes[at + 4]!;
  // The frame's number is coded like a character of UTF-8: leading ones count its bytes.
  const numberBytes = first < 0x80 ? 1 : Math.clz32(~(first << 24));
  const sizeCode = bytes[at + 2]! >> 4;
  const sizeBytes = sizeCode === 6 ? 1 : sizeCode === 7 ? 2 : 0;
  return 4 + numberBytes + sizeBytes + 1;
}

/** Longest head: four bytes, a number of seven, two for the size, a checksum. */
const MOST_HEAD_BYTES = 14;
/** More than the longest frame: eight channels of 65,535 samples of 32 bits. */
const MOST_FRAME_BYTES = 1 << 22;

/** Whether a frame begins at `at` whose rate is left to STREAMINFO. */
export function isFrameWithoutRate(bytes: Uint8Array, at = 0): boolean {
  if (bytes[at] !== 0xff || (bytes[at + 1]! & 0xfe) !== 0xf8 || bytes[at + 2]! & 15) return false;
  const end = at + headBytes(bytes, at);
  return end <= bytes.length && crc8(bytes.subarray(at, end)) === 0;
}

/**
 * Gives frames without a rate the code of an ordinary one: the decoder sees every frame for itself and
 * would not know. Frames are cut where the next head begins and the checksum in front of it holds.
 */
export class RatedFrames {
  private held = new Uint8Array(0);
  private scanned = 0;
  private sum = 0;

  /** The whole frames that `piece` completes. */
  push(piece: Uint8Array): Uint8Array[] {
    const joined = new Uint8Array(this.held.length + piece.length);
    joined.set(this.held);
    joined.set(piece, this.held.length);
    const out: Uint8Array[] = [];
    let start = 0;
    let at = this.scanned;
    for (; at + MOST_HEAD_BYTES <= joined.length; at++) {
      const isWhole = at > start && this.sum === 0 && isFrameWithoutRate(joined, at);
      if (isWhole || at - start > MOST_FRAME_BYTES) {
        out.push(rated(joined.slice(start, at)));
        start = at;
        this.sum = 0;
      }
      this.sum = nextCrc16(this.sum, joined[at]!);
    }
    this.held = joined.slice(start);
    this.scanned = at - start;
    return out;
  }

  /** The last frame, without the tags that some programs put behind it; what is damaged, as it is. */
  rest(): Uint8Array {
    let sum = 0;
    let end = 0;
    this.held.forEach((byte, i) => {
      const next = nextCrc16(sum, byte);
      if (next === 0 && sum !== 0) end = i + 1;
      sum = next;
    });
    return end > 0 ? rated(this.held.slice(0, end)) : this.held;
  }
}

/** A frame with a rate in its head; anything else as it is. */
function rated(bytes: Uint8Array): Uint8Array {
  const isFrame = bytes.length > 8 && isFrameWithoutRate(bytes) && crc16(bytes) === 0;
  return isFrame ? withRateCode(bytes, RATE_CODE) : bytes;
}

/** Polynomial x⁸ + x² + x + 1. */
function crc8(bytes: Uint8Array): number {
  let crc = 0;
  for (const byte of bytes) {
    crc ^= byte;
    for (let bit = 0; bit < 8; bit++) crc = crc & 0x80 ? ((crc << 1) ^ 0x07) & 0xff : crc << 1;
  }
  return crc;
}

const crc16Table = Uint16Array.from({ length: 256 }, (_, byte) => {
  let crc = byte << 8;
  for (let bit = 0; bit < 8; bit++) crc = crc & 0x8000 ? (crc << 1) ^ 0x8005 : crc << 1;
  return crc;
});

/** Polynomial x¹⁶ + x¹⁵ + x² + 1. */
function nextCrc16(crc: number, byte: number): number {
  return ((crc << 8) ^ crc16Table[(crc >> 8) ^ byte]!) & 0xffff;
}

function crc16(bytes: Uint8Array): number {
  let crc = 0;
  for (const byte of bytes) crc = nextCrc16(crc, byte);
  return crc;
}
