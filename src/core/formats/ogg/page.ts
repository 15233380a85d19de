import type { ByteSource } from '../../bytes/source';
import { ascii, viewOf } from '../bits';

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
}

/** Reads the page header at `at` in `bytes`; null where there is none or it is not complete. */
export function readPage(bytes: Uint8Array, at: number): OggPage | null {
  if (at + 27 > bytes.length || ascii(bytes, at, 4) !== 'OggS' || bytes[at + 4] !== 0) return null;
  const view = viewOf(bytes);
  const segments = bytes[at + 26]!;
  if (at + 27 + segments > bytes.length) return null;
  let payload = 0;
  for (let i = 0; i < segments; i++) payload += bytes[at + 27 + i]!;
  const flags = bytes[at + 5]!;
  return {
    at,
    bytes: 27 + segments + payload,
    headerBytes: 27 + segments,
    serial: view.getUint32(at + 14, true),
    granule: view.getBigInt64(at + 6, true),
    isFirst: (flags & 2) !== 0,
    isLast: (flags & 4) !== 0,
  };
}

/** The largest page there can be. */
const MOST_PAGE_BYTES = 65_307;

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
  for (let at = 0; at + 27 <= tail.length; at++) {
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
