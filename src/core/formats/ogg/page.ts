import type { ByteSource } from '../../bytes/source';
import { ByteWriter, viewOf } from '../bits';

/** The head of an Ogg page (RFC 3533). */
export interface OggPage {
  at: number;
  /** Header and payload. */
  bytes: number;
  headerBytes: number;
  serial: number;
  granule: bigint;
  isFirst: boolean;
  isLast: boolean;
  isContinued: boolean;
  /** Lengths of the page's segments; a packet ends with the first one below 255. */
  lacing: Uint8Array;
}

/** The four letters, and the only version that there is. */
function beginsPage(bytes: Uint8Array, at: number): boolean {
  return (
    bytes[at] === CAPITAL_O &&
    bytes[at + 1] === 0x67 &&
    bytes[at + 2] === 0x67 &&
    bytes[at + 3] === 0x53 &&
    bytes[at + 4] === 0
  );
}

const CAPITAL_O = 0x4f;

/** Where the next page may begin; the end of the bytes when nowhere. */
export function nextPagePlace(bytes: Uint8Array, from: number): number {
  const at = bytes.indexOf(CAPITAL_O, from);
  return at < 0 ? bytes.length : at;
}

/** Reads the page header at `at` in `bytes`; null where there is none or it is not complete. */
export function readPage(bytes: Uint8Array, at: number): OggPage | null {
  if (at + 27 > bytes.length || !beginsPage(bytes, at)) return null;
  const view = viewOf(bytes);
  const segments = bytes[at + 26]!;
  if (at + 27 + segments > bytes.length) return null;
  const lacing = bytes.subarray(at + 27, at + 27 + segments);
  const flags = bytes[at + 5]!;
  return {
    at,
    bytes: 27 + segments + lacing.reduce((sum, size) => sum + size, 0),
    headerBytes: 27 + segments,
    serial: view.getUint32(at + 14, true),
    granule: view.getBigInt64(at + 6, true),
    isFirst: (flags & 2) !== 0,
    isLast: (flags & 4) !== 0,
    isContinued: (flags & 1) !== 0,
    lacing,
  };
}

/** The largest head of a page: one with all the segments that it can have. */
export const MOST_HEAD_BYTES = 27 + 255;

/** The largest page there can be. */
export const MOST_PAGE_BYTES = 65_307;

export interface OggEnd {
  /** Granule position of the last page that is wholly there. */
  granule: bigint | null;
  /** Whether the stream ends as it should: with a complete page marked as the last. */
  complete: boolean;
}

/** Looks at the tail of a file for the last page of stream `serial`. */
export async function readEnd(source: ByteSource, serial: number): Promise<OggEnd> {
  const tailBytes = Math.min(source.size, MOST_PAGE_BYTES * 2);
  const tail = await source.read(source.size - tailBytes, tailBytes);
  let last: OggPage | null = null;
  for (let at = 0; at + 27 <= tail.length; at = nextPagePlace(tail, at + 1)) {
    const page = readPage(tail, at);
    if (!page || page.serial !== serial || at + page.bytes > tail.length) continue;
    last = page;
    at += page.bytes - 1;
  }
  return {
    granule: last && last.granule >= 0n ? last.granule : null,
    complete: last?.isLast ?? false,
  };
}

const crcTable = Uint32Array.from({ length: 256 }, (_, byte) => {
  let crc = byte << 24;
  for (let bit = 0; bit < 8; bit++) crc = crc & 0x80000000 ? (crc << 1) ^ 0x04c11db7 : crc << 1;
  return crc >>> 0;
});

const [CRC_AT, CRC_END] = [22, 26];

/** CRC-32 of a whole page with its checksum field taken as 0 (polynomial 0x04c11db7, not reflected). */
function pageCrc(page: Uint8Array): number {
  let crc = 0;
  for (let i = 0; i < page.length; i++) {
    const byte = i >= CRC_AT && i < CRC_END ? 0 : page[i]!;
    crc = (crc << 8) ^ crcTable[((crc >>> 24) ^ byte) & 0xff]!;
  }
  return crc >>> 0;
}

/** Whether a whole page is as its checksum says. */
export function isPageIntact(page: Uint8Array): boolean {
  return viewOf(page).getUint32(CRC_AT, true) === pageCrc(page);
}

/** Writes sequence number and checksum into a page. */
function sealPage(page: Uint8Array, sequence: number): Uint8Array {
  const view = viewOf(page);
  view.setUint32(18, sequence, true);
  view.setUint32(CRC_AT, pageCrc(page), true);
  return page;
}

/** Lays packets into pages. */
export class OggPager {
  private sequence = 0;

  constructor(private readonly serial: number) {}

  /**
   * Whole packets on as few pages as hold them. `granule` is the position behind the last packet.
   */
  pages(packets: readonly Uint8Array[], granule: bigint, isLast = false): Uint8Array[] {
    const lacing: number[] = [];
    for (const packet of packets) {
      for (let left = packet.length; ; left -= 255) {
        lacing.push(Math.min(255, left));
        if (left < 255) break;
      }
    }
    const body = new Uint8Array(packets.reduce((sum, packet) => sum + packet.length, 0));
    let at = 0;
    for (const packet of packets) {
      body.set(packet, at);
      at += packet.length;
    }
    const out: Uint8Array[] = [];
    let used = 0;
    let isContinued = false;
    for (let from = 0; from < lacing.length; from += 255) {
      const segments = lacing.slice(from, from + 255);
      const bytes = segments.reduce((sum, size) => sum + size, 0);
      const ends = from + 255 >= lacing.length;
      // A page on which no packet ends has no position.
      const position = ends ? granule : segments.some((size) => size < 255) ? granule : -1n;
      const flags =
        (isContinued ? 1 : 0) | (this.sequence === 0 ? 2 : 0) | (ends && isLast ? 4 : 0);
      const head = new ByteWriter().text('OggS').u8(0).u8(flags).i64le(position);
      head.u32le(this.serial).u32le(0).u32le(0).u8(segments.length);
      head.raw(Uint8Array.from(segments)).raw(body.subarray(used, used + bytes));
      out.push(sealPage(head.bytes(), this.sequence++));
      used += bytes;
      isContinued = segments.at(-1) === 255;
    }
    return out;
  }

  /** Gives a page that somebody else made its place behind those made here. */
  append(page: Uint8Array): Uint8Array {
    return sealPage(page, this.sequence++);
  }
}
