import { crc32, deflateRawSync } from 'node:zlib';

/** One entry of a made archive. What is not said is as usual programs write it. */
export interface MadeEntry {
  name: string;
  content: Uint8Array;
  /** Bytes that the archive says it unpacks to. */
  claims?: number;
  isEncrypted?: boolean;
  isLink?: boolean;
  method?: 0 | 8 | 14;
  /** Points to the content of this entry instead of its own. */
  sharesWith?: number;
  /** Turns a byte of the packed content over. */
  isDamaged?: boolean;
}

const UTF8_NAMES = 0x800;
const ENCRYPTED = 1;

/** A zip archive (APPNOTE 6.3), made bit by bit so that it can be bad in every way. */
export function makeZip(entries: readonly MadeEntry[]): Uint8Array {
  const parts: Buffer[] = [];
  const heads: Buffer[] = [];
  const placed: { at: number; packed: number }[] = [];
  let at = 0;
  for (const entry of entries) {
    const method = entry.method ?? 8;
    const packed = method === 8 ? deflateRawSync(entry.content) : Buffer.from(entry.content);
    if (entry.isDamaged) packed[packed.length >> 1]! ^= 0xff;
    const name = Buffer.from(entry.name);
    const shared = entry.sharesWith === undefined ? undefined : placed[entry.sharesWith];
    const common = Buffer.alloc(26);
    common.writeUInt16LE(20, 0);
    common.writeUInt16LE(UTF8_NAMES | (entry.isEncrypted ? ENCRYPTED : 0), 2);
    common.writeUInt16LE(method, 4);
    common.writeUInt32LE(checksum(entry.content), 10);
    common.writeUInt32LE(shared?.packed ?? packed.length, 14);
    common.writeUInt32LE(entry.claims ?? entry.content.length, 18);
    common.writeUInt16LE(name.length, 22);
    const place = shared?.at ?? at;
    if (!shared) {
      parts.push(mark(0x04034b50), common, name, packed);
      placed.push({ at, packed: packed.length });
      at += 30 + name.length + packed.length;
    } else {
      placed.push(shared);
    }
    const tail = Buffer.alloc(16);
    tail.writeUInt32LE(entry.isLink ? (0o120777 << 16) >>> 0 : 0, 8);
    tail.writeUInt32LE(place, 12);
    // The list says who made the entry (Unix), then repeats what stands in front of it.
    heads.push(mark(0x02014b50), Buffer.from([20, 3]), common, tail.subarray(2), name);
  }
  const list = Buffer.concat(heads);
  const end = Buffer.alloc(18);
  end.writeUInt16LE(Math.min(entries.length, 0xffff), 4);
  end.writeUInt16LE(Math.min(entries.length, 0xffff), 6);
  end.writeUInt32LE(list.length, 8);
  end.writeUInt32LE(at, 12);
  return Buffer.concat([...parts, list, mark(0x06054b50), end]);
}

function mark(number: number): Buffer {
  const bytes = Buffer.alloc(4);
  bytes.writeUInt32LE(number);
  return bytes;
}

function checksum(bytes: Uint8Array): number {
  return crc32(bytes);
}
