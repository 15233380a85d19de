import type { ByteSource } from '../../bytes/source';
import { joinBytes } from '../bits';
import { MOST_HEAD_BYTES, MOST_PAGE_BYTES, nextPagePlace, readPage, type OggPage } from './page';

export interface OggPacket {
  data: Uint8Array;
  /** Position that the page states on which this packet ends, when it is the last to do so. */
  granule: bigint | null;
  isLast: boolean;
}

/** A packet is never larger; what claims to be is damage. */
const MOST_PACKET_BYTES = 1 << 22;

/** A page as it lies in the file: its bytes are valid until the next one is asked for. */
interface PlacedPage {
  page: OggPage;
  payload: Uint8Array;
  whole: Uint8Array;
  /** Whether something else lies in front of it. */
  afterGap: boolean;
  /** Whether the file ends inside of it. */
  isCut: boolean;
}

/** The pages of one stream from a byte on, found again behind damage. */
export async function* pagesOf(
  source: ByteSource,
  serial: number,
  fromByte: number,
): AsyncGenerator<PlacedPage> {
  let afterGap = fromByte > 0;
  for (let at = fromByte; at < source.size;) {
    const bytes = await source.read(at, MOST_PAGE_BYTES * 4);
    const isRest = at + bytes.length >= source.size;
    let used = 0;
    // A head that may run over what has been read is read again, whole, with what follows.
    while (used + (isRest ? 27 : MOST_HEAD_BYTES) <= bytes.length) {
      const page = readPage(bytes, used);
      if (!page) {
        afterGap = true;
        used = nextPagePlace(bytes, used + 1);
        continue;
      }
      if (used + page.bytes > bytes.length) {
        if (isRest && page.serial === serial) {
          const whole = bytes.subarray(used);
          yield { page, payload: whole.subarray(page.headerBytes), whole, afterGap, isCut: true };
        }
        break;
      }
      if (page.serial === serial) {
        const whole = bytes.subarray(used, used + page.bytes);
        yield { page, payload: whole.subarray(page.headerBytes), whole, afterGap, isCut: false };
        afterGap = false;
      }
      used += page.bytes;
    }
    // Less than a page header is left, or a page that runs over the end of the file.
    if (used === 0 || isRest) return;
    at += used;
  }
}

/** The packets of the stream `serial` from a byte on. A packet that lost a part is left out. */
export async function* oggPackets(
  source: ByteSource,
  serial: number,
  fromByte = 0,
): AsyncGenerator<OggPacket> {
  let open: Uint8Array[] = [];
  let openBytes = 0;
  let isBroken = false;
  for await (const { page, payload, afterGap, isCut } of pagesOf(source, serial, fromByte)) {
    if (isCut) return;
    if (!page.isContinued || afterGap) {
      open = [];
      openBytes = 0;
      isBroken = page.isContinued;
    }
    const lastEnd = page.lacing.findLastIndex((size) => size < 255);
    let at = 0;
    let start = 0;
    for (let i = 0; i < page.lacing.length; i++) {
      at += page.lacing[i]!;
      if (page.lacing[i] === 255) continue;
      open.push(payload.subarray(start, at));
      const data = joinBytes(...open);
      const isEnd = i === lastEnd;
      if (!isBroken) {
        yield { data, granule: isEnd ? page.granule : null, isLast: isEnd && page.isLast };
      }
      open = [];
      openBytes = 0;
      isBroken = false;
      start = at;
    }
    if (start < at) {
      open.push(payload.slice(start, at));
      openBytes += at - start;
      if (openBytes > MOST_PACKET_BYTES) {
        open = [];
        isBroken = true;
      }
    }
  }
}

/** The first `count` packets, for headers. */
export async function firstPackets(
  source: ByteSource,
  serial: number,
  count: number,
): Promise<Uint8Array[]> {
  const found: Uint8Array[] = [];
  for await (const packet of oggPackets(source, serial)) {
    found.push(packet.data);
    if (found.length === count) break;
  }
  return found;
}
