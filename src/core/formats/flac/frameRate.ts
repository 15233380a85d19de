import { crc16, crc8 } from './checksums';

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

/** Gives a whole frame whose rate is left to STREAMINFO the code of an ordinary one. In place. */
export function withRate(frame: Uint8Array): Uint8Array {
  return (frame[2]! & 15) === 0 ? withRateCode(frame, RATE_CODE) : frame;
}

function withRateCode(frame: Uint8Array, code: number): Uint8Array {
  frame[2] = (frame[2]! & 0xf0) | code;
  const head = headBytes(frame, 0);
  frame[head - 1] = crc8(frame.subarray(0, head - 1));
  const sum = crc16(frame.subarray(0, frame.length - 2));
  frame[frame.length - 2] = sum >> 8;
  frame[frame.length - 1] = sum & 0xff;
  return frame;
}

/** Length of the head at `at`, its checksum included. */
export function headBytes(bytes: Uint8Array, at: number): number {
  const first = bytes[at + 4]!;
  // The frame's number is coded like a character of UTF-8: leading ones count its bytes.
  const numberBytes = first < 0x80 ? 1 : Math.clz32(~(first << 24));
  const sizeCode = bytes[at + 2]! >> 4;
  const sizeBytes = sizeCode === 6 ? 1 : sizeCode === 7 ? 2 : 0;
  return 4 + numberBytes + sizeBytes + rateBytes(bytes, at) + 1;
}

/** What the rate takes in the head at `at`, behind its code. */
export function rateBytes(bytes: Uint8Array, at: number): number {
  const code = bytes[at + 2]! & 15;
  return code < 12 ? 0 : code === 12 ? 1 : 2;
}
