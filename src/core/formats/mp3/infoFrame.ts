import { ascii, viewOf } from '../bits';
import { readFrameHeader, type FrameHeader } from './frame';

/**
 * The delay header: a silent first frame that tells a player how many frames of sound follow and how
 * much the encoder added at each end. Its layout is the de-facto "Xing"/"Info" tag with the encoder's
 * extension behind it, which all common players honour.
 */
export interface DelayInfo {
  /** MPEG frames behind this one. */
  mpegFrames: number | null;
  /** Frames of sound that the encoder put in front; the decoder adds `DECODER_DELAY` more. */
  delay: number | null;
  padding: number | null;
}

/** What every layer III decoder adds: 528 frames of filter bank and overlap, and one more. */
export const DECODER_DELAY = 529;
const EXTENSION_AT = 120;
const INFO_BYTES = 156;

/** Reads the delay header of a file's first frame; null when it is an ordinary frame. */
export function readInfoFrame(frame: Uint8Array, header: FrameHeader): DelayInfo | null {
  const at = 4 + header.sideInfo + (header.protectedByCrc ? 2 : 0);
  const mark = ascii(frame, at, 4);
  if (mark !== 'Xing' && mark !== 'Info') return null;
  const view = viewOf(frame);
  if (at + 8 > frame.length) return { mpegFrames: null, delay: null, padding: null };
  const flags = view.getUint32(at + 4);
  const mpegFrames = flags & 1 && at + 12 <= frame.length ? view.getUint32(at + 8) : null;
  // The fields before the extension are optional, so its place depends on the flags.
  const fields =
    (flags & 1 ? 4 : 0) + (flags & 2 ? 4 : 0) + (flags & 4 ? 100 : 0) + (flags & 8 ? 4 : 0);
  const extension = at + 8 + fields;
  if (extension + 24 > frame.length || frame[extension] === 0) {
    return { mpegFrames, delay: null, padding: null };
  }
  const packed =
    (frame[extension + 21]! << 16) | (frame[extension + 22]! << 8) | frame[extension + 23]!;
  return { mpegFrames, delay: packed >> 12, padding: packed & 0xfff };
}

export interface InfoFacts {
  variable: boolean;
  mpegFrames: number;
  soundBytes: number;
  soundCrc: number;
  delay: number;
  padding: number;
  kbps: number;
  /** Byte position of each hundredth of the sound, as shares of 256. */
  seekTable: Uint8Array;
}

/** A frame of the same kind as `model` that is long enough to hold the header, filled with zeros. */
export function emptyInfoFrame(model: Uint8Array): Uint8Array {
  const frame = new Uint8Array(4);
  for (let index = 1; index < 15; index++) {
    frame.set(model.subarray(0, 4));
    frame[1]! |= 1; // no CRC
    frame[2] = (index << 4) | (model[2]! & 0x0c);
    const header = readFrameHeader(frame);
    if (header && header.bytes >= 4 + header.sideInfo + INFO_BYTES) {
      const whole = new Uint8Array(header.bytes);
      whole.set(frame);
      return whole;
    }
  }
  throw new Error('no bit rate gives a frame that holds the delay header');
}

/** Fills in an empty info frame. */
export function fillInfoFrame(frame: Uint8Array, facts: InfoFacts): void {
  const header = readFrameHeader(frame);
  if (!header) throw new Error('not a frame');
  const at = 4 + header.sideInfo;
  const view = viewOf(frame);
  const text = (place: number, value: string) =>
    [...value].forEach((letter, i) => view.setUint8(place + i, letter.charCodeAt(0)));
  text(at, facts.variable ? 'Xing' : 'Info');
  view.setUint32(at + 4, 0xf); // frames, bytes, seek table and quality follow
  view.setUint32(at + 8, facts.mpegFrames);
  view.setUint32(at + 12, facts.soundBytes + frame.length);
  frame.set(facts.seekTable, at + 16);
  const extension = at + EXTENSION_AT;
  text(extension, 'LAME3.100');
  view.setUint8(extension + 9, facts.variable ? 4 : 1);
  view.setUint8(extension + 20, Math.min(255, facts.kbps));
  view.setUint8(extension + 21, facts.delay >> 4);
  view.setUint8(extension + 22, ((facts.delay & 0xf) << 4) | (facts.padding >> 8));
  view.setUint8(extension + 23, facts.padding & 0xff);
  // The length of the music counts this frame, too; its checksum does not.
  view.setUint32(extension + 28, facts.soundBytes + frame.length);
  view.setUint16(extension + 32, facts.soundCrc);
  view.setUint16(extension + 34, crc16(frame.subarray(0, extension + 34)));
}

const crcTable = Uint16Array.from({ length: 256 }, (_, byte) => {
  let crc = byte;
  for (let bit = 0; bit < 8; bit++) crc = crc & 1 ? (crc >> 1) ^ 0xa001 : crc >> 1;
  return crc;
});

/** CRC-16/ARC, which the header uses for the sound and for itself. */
export function crc16(bytes: Uint8Array, crc = 0): number {
  for (let i = 0; i < bytes.length; i++) crc = (crc >> 8) ^ crcTable[(crc ^ bytes[i]!) & 0xff]!;
  return crc;
}
