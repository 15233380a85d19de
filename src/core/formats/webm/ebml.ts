import { ByteWriter, encodeText, joinBytes } from '../bits';

/** EBML (RFC 8794) and the elements of Matroska (RFC 9559) that sound needs. */
export const ID = {
  ebml: 0x1a45dfa3,
  docType: 0x4282,
  segment: 0x18538067,
  seekHead: 0x114d9b74,
  seek: 0x4dbb,
  seekId: 0x53ab,
  seekPosition: 0x53ac,
  info: 0x1549a966,
  timestampScale: 0x2ad7b1,
  duration: 0x4489,
  muxingApp: 0x4d80,
  writingApp: 0x5741,
  tracks: 0x1654ae6b,
  trackEntry: 0xae,
  trackNumber: 0xd7,
  trackUid: 0x73c5,
  trackType: 0x83,
  codecId: 0x86,
  codecPrivate: 0x63a2,
  codecDelay: 0x56aa,
  seekPreRoll: 0x56bb,
  audio: 0xe1,
  samplingFrequency: 0xb5,
  channels: 0x9f,
  cluster: 0x1f43b675,
  timestamp: 0xe7,
  simpleBlock: 0xa3,
  blockGroup: 0xa0,
  block: 0xa1,
  blockDuration: 0x9b,
  discardPadding: 0x75a2,
  cues: 0x1c53bb6b,
  cuePoint: 0xbb,
  cueTime: 0xb3,
  cueTrackPositions: 0xb7,
  cueTrack: 0xf7,
  cueClusterPosition: 0xf1,
  tags: 0x1254c367,
  tag: 0x7373,
  targets: 0x63c0,
  targetTypeValue: 0x68ca,
  simpleTag: 0x67c8,
  tagName: 0x45a3,
  tagString: 0x4487,
} as const;

export interface Element {
  id: number;
  /** Bytes of its body; null where it is as long as what follows. */
  size: number | null;
  headBytes: number;
}

/** Reads an element's head; null where there is none. */
export function readElement(bytes: Uint8Array, at: number): Element | null {
  const first = bytes[at] ?? 0;
  const idBytes = Math.clz32(first) - 23;
  if (first === 0 || idBytes > 4 || at + idBytes >= bytes.length) return null;
  let id = 0;
  for (let i = 0; i < idBytes; i++) id = id * 256 + bytes[at + i]!;
  const size = readVint(bytes, at + idBytes);
  return size && { id, size: size.value, headBytes: idBytes + size.bytes };
}

/** A number of 1 to 8 bytes; all ones mean "unknown". */
export function readVint(
  bytes: Uint8Array,
  at: number,
): { value: number | null; bytes: number } | null {
  const first = bytes[at] ?? 0;
  if (first === 0) return null;
  const length = Math.clz32(first) - 23;
  if (at + length > bytes.length) return null;
  let value = first & (0xff >> length);
  let isUnknown = value === 0xff >> length;
  for (let i = 1; i < length; i++) {
    value = value * 256 + bytes[at + i]!;
    isUnknown &&= bytes[at + i] === 0xff;
  }
  return { value: isUnknown ? null : value, bytes: length };
}

/** The elements of a body that is held in memory. Stops where one does not fit. */
export function* elements(body: Uint8Array): Generator<{ id: number; body: Uint8Array }> {
  for (let at = 0; at < body.length;) {
    const element = readElement(body, at);
    if (!element || element.size === null) return;
    const start = at + element.headBytes;
    if (start + element.size > body.length) return;
    yield { id: element.id, body: body.subarray(start, start + element.size) };
    at = start + element.size;
  }
}

export function readUint(body: Uint8Array): number {
  return body.subarray(0, 8).reduce((value, byte) => value * 256 + byte, 0);
}

export function readInt(body: Uint8Array): number {
  const value = readUint(body);
  const span = 2 ** (8 * Math.min(8, body.length));
  return value >= span / 2 ? value - span : value;
}

/** One element with its body; its size takes as few bytes as it can. */
export function element(id: number, ...parts: readonly Uint8Array[]): Uint8Array {
  const size = parts.reduce((sum, part) => sum + part.length, 0);
  return joinBytes(idBytes(id), shortSize(size), ...parts);
}

/** Head of an element whose size takes eight bytes, so that it can be put right later. */
export function elementHead(id: number, size: number): Uint8Array {
  return new ByteWriter()
    .raw(idBytes(id))
    .u8(1)
    .u24be(Math.floor(size / 2 ** 32))
    .u32be(size >>> 0)
    .bytes();
}

function idBytes(id: number): Uint8Array {
  const out = new ByteWriter();
  for (let shift = 24; shift >= 0; shift -= 8) {
    if (id >= 2 ** shift) out.u8((id / 2 ** shift) & 0xff);
  }
  return out.bytes();
}

/** A size of up to four bytes; all ones would mean that it is not known (RFC 8794, 4). */
function shortSize(size: number): Uint8Array {
  for (let bytes = 1; bytes <= 4; bytes++) {
    if (size >= 2 ** (7 * bytes) - 1) continue;
    const value = size + 2 ** (7 * bytes);
    return Uint8Array.from({ length: bytes }, (_, i) => value / 256 ** (bytes - 1 - i));
  }
  throw new Error('an element of more than 256 MB');
}

export function uint(id: number, value: number): Uint8Array {
  const out = new ByteWriter().u32be(Math.floor(value / 2 ** 32)).u32be(value >>> 0);
  return element(id, out.bytes());
}

export function float(id: number, value: number): Uint8Array {
  return element(id, new ByteWriter().f64be(value).bytes());
}

export function text(id: number, value: string): Uint8Array {
  return element(id, encodeText(value));
}
