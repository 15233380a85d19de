import type { Entry, FileEntry } from '@zip.js/zip.js';
import { inflateSync } from 'fflate';
import { crc32 } from '../bytes/crc';
import type { ByteSource } from '../bytes/source';
import { memorySource } from '../bytes/source';
import { BijouError } from '../errors';
import { viewOf } from '../formats/bits';
import { count } from '../tradeNames';
import { MOST_FILES, MOST_SOUND_BYTES, tooLargeFile } from './limits';
import type { FoundFile, FoundPack } from './pack';

/**
 * The files of a zip, of which only the list is read. Names are as they stand there, whatever they say.
 * @throws damaged-header, too-large
 */
export async function foundInZip(name: string, zip: ByteSource): Promise<FoundPack> {
  const { configure, Reader, ZipReader } = await import('@zip.js/zip.js');
  // One is in a worker already.
  configure({ useWebWorkers: false });
  class ZippedBytes extends Reader<ByteSource> {
    constructor(private readonly source: ByteSource) {
      super(source);
      this.size = source.size;
    }
    override readUint8Array(at: number, length: number): Promise<Uint8Array> {
      return this.source.read(at, length);
    }
  }
  // What is wrong with a name is said of that file alone.
  const reader = new ZipReader(new ZippedBytes(zip), { filenameValidation: 'tolerant' });
  const files: FoundFile[] = [];
  try {
    for await (const entry of reader.getEntriesGenerator()) {
      if (isFolder(entry)) continue;
      if (files.length === MOST_FILES) throw tooMany();
      files.push(foundFile(entry, zip));
    }
  } catch (error) {
    throw error instanceof BijouError ? error : damaged();
  }
  return { name, form: 'zip', files };
}

function isFolder(entry: Entry): entry is Exclude<Entry, FileEntry> {
  return entry.directory;
}

function foundFile(entry: FileEntry, zip: ByteSource): FoundFile {
  return {
    path: entry.filename,
    bytes: entry.uncompressedSize,
    async open() {
      if (entry.encrypted) throw encrypted();
      return memorySource(await unpacked(entry, zip));
    },
  };
}

/** How the bytes of an entry lie in a zip (APPNOTE, 4.4.5). */
const [STORED, DEFLATED] = [0, 8];
const LOCAL_HEAD = { bytes: 30, signature: 0x04034b50, nameLength: 26, extraLength: 28 };

/**
 * What comes out, never more than was announced, held against its checksum. Done here for all of it at once: as a
 * stream each of many small files takes some milliseconds.
 */
async function unpacked(
  { offset, compressedSize, uncompressedSize: most, compressionMethod, signature }: FileEntry,
  zip: ByteSource,
): Promise<Uint8Array> {
  if (most > MOST_SOUND_BYTES) throw tooLargeFile(most);
  if (compressedSize > MOST_SOUND_BYTES) throw tooLargeFile(compressedSize);
  const head = viewOf(await zip.read(offset, LOCAL_HEAD.bytes));
  const isHead = head.byteLength === LOCAL_HEAD.bytes;
  if (!isHead || head.getUint32(0, true) !== LOCAL_HEAD.signature) throw damagedFile();
  const before =
    head.getUint16(LOCAL_HEAD.nameLength, true) + head.getUint16(LOCAL_HEAD.extraLength, true);
  const packed = await zip.read(offset + LOCAL_HEAD.bytes + before, compressedSize);
  const bytes = inflated(packed, compressionMethod, most);
  if (bytes.length !== most || crc32(bytes) !== signature) throw damagedFile();
  return bytes;
}

function inflated(packed: Uint8Array, method: number, most: number): Uint8Array {
  if (method === STORED) return packed;
  if (method !== DEFLATED) throw otherMethod(method);
  try {
    // One byte more than was announced: what is longer shows.
    return inflateSync(packed, { out: new Uint8Array(most + 1) });
  } catch {
    throw damagedFile();
  }
}

function damaged(): BijouError {
  return new BijouError(
    'damaged-header',
    'It is no zip that can be read: its list of contents is damaged or missing.',
    'Get it again to its end, or zip the files anew.',
  );
}

function damagedFile(): BijouError {
  return new BijouError(
    'damaged-sound',
    'It is damaged inside of the zip.',
    'Get the zip again, or zip the files anew.',
  );
}

function encrypted(): BijouError {
  return new BijouError(
    'not-allowed',
    'It is locked with a password.',
    'Zip the files without a password.',
  );
}

function tooMany(): BijouError {
  return new BijouError(
    'too-large',
    `The zip has more than ${count(MOST_FILES)} files.`,
    'Leave out what does not belong to it.',
  );
}

function otherMethod(method: number): BijouError {
  return new BijouError(
    'unknown-codec',
    `It is packed by method ${method}, which few programs unpack.`,
    'Zip the files anew, as usual.',
  );
}
