/** The records of a zip archive (PKWARE APPNOTE 6.3.10), for entries that are stored as they are. */

export interface ZippedEntry {
  /** With plain slashes. */
  path: string;
  size: number;
  /** CRC-32. */
  checksum: number;
  /** Of its local header, from the beginning of the archive. */
  offset: number;
}

/** What does not fit into a field stands in a field of its own behind (4.5.3). */
const MOST = 0xffffffff;
const MOST_ENTRIES = 0xffff;
/** Versions of the format that are needed for the usual, and for large archives (4.4.3). */
const USUAL = 10;
const LARGE = 45;
/** Names are in UTF-8 (4.4.4, bit 11). */
const UTF8 = 0x0800;
/** The first day that a zip can name, at midnight (4.4.6): the same files give the same bytes, whenever. */
const FIRST_DAY = 0x0021;

/** Fields one behind the other, each with its number of bytes, little-endian. */
function record(...fields: readonly [bytes: 2 | 4 | 8, value: number][]): Buffer {
  const out = Buffer.alloc(fields.reduce((sum, [bytes]) => sum + bytes, 0));
  let at = 0;
  for (const [bytes, value] of fields) {
    if (bytes === 8) out.writeBigUInt64LE(BigInt(value), at);
    else out.writeUIntLE(value, at, bytes);
    at += bytes;
  }
  return out;
}

/** In front of each file: its name, checksum and size (4.3.7). */
export function localHeader({ path, size, checksum }: ZippedEntry): Buffer {
  const isLarge = size >= MOST;
  const name = Buffer.from(path);
  const more = isLarge ? record([2, 1], [2, 16], [8, size], [8, size]) : record();
  return Buffer.concat([
    record(
      [4, 0x04034b50],
      ...common(path, isLarge, checksum, size),
      [2, name.length],
      [2, more.length],
    ),
    name,
    more,
  ]);
}

/** The same in the list at the end, with where it lies (4.3.12). */
export function centralHeader({ path, size, checksum, offset }: ZippedEntry): Buffer {
  const isLarge = size >= MOST;
  const isFar = offset >= MOST;
  const name = Buffer.from(path);
  const fields: [8, number][] = [
    ...(isLarge
      ? ([
          [8, size],
          [8, size],
        ] as [8, number][])
      : []),
    ...(isFar ? ([[8, offset]] as [8, number][]) : []),
  ];
  const more = fields.length > 0 ? record([2, 1], [2, fields.length * 8], ...fields) : record();
  return Buffer.concat([
    record(
      [4, 0x02014b50],
      [2, isLarge || isFar ? LARGE : USUAL],
      ...common(path, isLarge || isFar, checksum, size),
      [2, name.length],
      [2, more.length],
      // No comment, on the first disk, no attributes of any system.
      ...[
        [2, 0],
        [2, 0],
        [2, 0],
        [4, 0],
      ].map((field) => field as [2 | 4, number]),
      [4, isFar ? MOST : offset],
    ),
    name,
    more,
  ]);
}

function common(path: string, isLarge: boolean, checksum: number, size: number): [2 | 4, number][] {
  const shown = size >= MOST ? MOST : size;
  return [
    [2, isLarge ? LARGE : USUAL],
    [2, /^[\0-\x7f]*$/.test(path) ? 0 : UTF8],
    // Stored.
    [2, 0],
    [2, 0],
    [2, FIRST_DAY],
    [4, checksum],
    [4, shown],
    [4, shown],
  ];
}

/** Behind all: how many entries there are, and where their list lies (4.3.14 to 4.3.16). */
export function endOfZip({
  entries,
  offset,
  bytes,
}: {
  entries: number;
  offset: number;
  bytes: number;
}): Buffer {
  const isLarge = entries >= MOST_ENTRIES || offset >= MOST || bytes >= MOST;
  const end = record(
    [4, 0x06054b50],
    [2, 0],
    [2, 0],
    [2, Math.min(entries, MOST_ENTRIES)],
    [2, Math.min(entries, MOST_ENTRIES)],
    [4, Math.min(bytes, MOST)],
    [4, Math.min(offset, MOST)],
    [2, 0],
  );
  if (!isLarge) return end;
  const large = record(
    [4, 0x06064b50],
    [8, 44],
    [2, LARGE],
    [2, LARGE],
    [4, 0],
    [4, 0],
    [8, entries],
    [8, entries],
    [8, bytes],
    [8, offset],
  );
  const locator = record([4, 0x07064b50], [4, 0], [8, offset + bytes], [4, 1]);
  return Buffer.concat([large, locator, end]);
}
