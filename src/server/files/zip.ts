import { stat, statfs } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import { createCRC32, type IHasher } from 'hash-wasm';
import prettyBytes from 'pretty-bytes';
import yauzl, { type Entry, type ZipFile } from 'yauzl';
import { leftOutByName, safePath, type LeftOutReason } from '@/core/collect/arrivals';
import { BijouError } from '@/core/errors';
import { count } from '@/core/tradeNames';
import { MOST_ENTRIES, mostUnpackedBytes } from '../limits';

/** One file of an archive. Nothing is unpacked until `open` is called. */
export interface ZipEntry {
  /** With plain slashes; as it stands in the archive where it is not safe. */
  path: string;
  bytes: number;
  /** Why it must be left alone. */
  leftOut: LeftOutReason | null;
  /** @throws unknown-codec, damaged-sound, also from the stream. */
  open(): Promise<AsyncIterable<Uint8Array>>;
}

/** An archive that unpacks to more than this many times its size and more than so many bytes is a trap. */
const MOST_RATIO = 100;
const SMALL_BYTES = 256 * 2 ** 20;

export function isZip(head: Uint8Array): boolean {
  const mark = String.fromCharCode(...head.subarray(0, 4));
  return mark === 'PK\x03\x04' || mark === 'PK\x05\x06';
}

/**
 * Runs `use` with the files of a zip archive, in the order of its list, and closes it whatever happens.
 * The list is looked through first: nothing of a trap is unpacked.
 * @throws damaged-header, too-large, disk
 */
export async function withArchive<T>(
  path: string,
  use: (entries: ZipEntry[]) => Promise<T>,
): Promise<T> {
  const zip = await yauzl
    // Names are judged one by one, so that a bad one does not hide the good ones.
    .openPromise(path, { lazyEntries: true, autoClose: false, decodeStrings: false })
    .catch(() => {
      throw damaged();
    });
  try {
    const entries = await list(zip);
    await refuseTraps(entries, path);
    return await use(entries.map((entry) => zipEntry(zip, entry)));
  } finally {
    zip.close();
  }
}

async function list(zip: ZipFile): Promise<Entry[]> {
  if (zip.entryCount > MOST_ENTRIES) {
    throw new BijouError(
      'too-large',
      `The archive has ${count(zip.entryCount)} entries; the limit is ${count(MOST_ENTRIES)}.`,
      'Bring it in in parts.',
    );
  }
  const entries: Entry[] = [];
  try {
    for await (const entry of zip.eachEntry()) {
      if (!nameOf(entry).endsWith('/')) entries.push(entry);
    }
  } catch {
    throw damaged();
  }
  return entries;
}

async function refuseTraps(entries: readonly Entry[], path: string): Promise<void> {
  const { size } = await stat(path);
  const unpacked = entries.reduce((sum, entry) => sum + entry.uncompressedSize, 0);
  const packed = entries.reduce((sum, entry) => sum + entry.compressedSize, 0);
  if (packed > size) {
    throw new BijouError(
      'damaged-header',
      'The entries of the archive overlap: together they are larger than the archive.',
      'It was made to do harm, or is damaged. Get it again from where it came from.',
    );
  }
  const isTrap = unpacked > SMALL_BYTES && unpacked > size * MOST_RATIO;
  if (isTrap || unpacked > mostUnpackedBytes()) {
    throw new BijouError(
      'too-large',
      `The archive of ${prettyBytes(size)} would unpack to ${prettyBytes(unpacked)}; nothing of it was unpacked.`,
      isTrap
        ? 'Sound does not pack that small. If you trust it, unpack it yourself and bring the files in.'
        : 'Bring it in in parts, or raise BIJOU_MAX_UNPACKED_BYTES.',
    );
  }
  const { bavail, bsize } = await statfs(path);
  if (unpacked > bavail * bsize) {
    throw new BijouError(
      'disk',
      `The archive unpacks to ${prettyBytes(unpacked)}; only ${prettyBytes(bavail * bsize)} are free.`,
      'Free some space, then bring it in again.',
    );
  }
}

function zipEntry(zip: ZipFile, entry: Entry): ZipEntry {
  const name = nameOf(entry);
  const safe = safePath(name);
  const path = safe ?? name.slice(0, 400);
  return {
    path,
    bytes: entry.uncompressedSize,
    leftOut: reasonToLeave(entry, safe),
    async open() {
      if (!entry.canDecodeFileData()) {
        throw new BijouError(
          'unknown-codec',
          `It is packed with method ${entry.compressionMethod}, which Bijou does not unpack.`,
          'Unpack the archive yourself and bring the files in.',
        );
      }
      const stream = await zip.openReadStreamPromise(entry).catch(() => {
        throw damagedEntry();
      });
      return unpackedBytes(stream, entry.crc32);
    },
  };
}

function reasonToLeave(entry: Entry, safe: string | null): LeftOutReason | null {
  if (safe === null) return 'unsafe-path';
  // The upper half holds the mode that Unix gave the file; these bits say what kind it is.
  if (((entry.externalFileAttributes >>> 16) & 0o170_000) === 0o120_000) return 'link';
  return leftOutByName(safe) ?? (entry.isEncrypted() ? 'encrypted' : null);
}

/** Making one takes longer than most entries of an archive need it for. */
const spareCounters: IHasher[] = [];

/** What comes out, held against the checksum that the archive has of it. */
async function* unpackedBytes(stream: Readable, wanted: number): AsyncGenerator<Uint8Array> {
  const crc = (spareCounters.pop() ?? (await createCRC32())).init();
  try {
    for await (const piece of stream as AsyncIterable<Uint8Array>) {
      crc.update(piece);
      yield piece;
    }
    if (parseInt(crc.digest('hex'), 16) !== wanted) throw damagedEntry();
  } catch {
    throw damagedEntry();
  } finally {
    spareCounters.push(crc);
  }
}

function nameOf(entry: Entry): string {
  return yauzl.getFileNameLowLevel(
    entry.generalPurposeBitFlag,
    entry.fileNameRaw,
    entry.extraFields,
    false,
  );
}

function damaged(): BijouError {
  return new BijouError(
    'damaged-header',
    'The zip archive is damaged: its list of contents cannot be read.',
    'Download or copy it again to the end.',
  );
}

function damagedEntry(): BijouError {
  return new BijouError(
    'damaged-sound',
    'It is damaged inside its archive and cannot be unpacked.',
    'Get the archive again from where it came from.',
  );
}
