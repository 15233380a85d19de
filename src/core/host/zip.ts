import type { Entry, FileEntry } from '@zip.js/zip.js';
import type { ByteSource } from '../bytes/source';
import { memorySource } from '../bytes/source';
import { BijouError } from '../errors';
import { joinBytes } from '../formats/bits';
import { count } from '../tradeNames';
import { MOST_FILES, MOST_SOUND_BYTES } from './limits';
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
      files.push(foundFile(entry));
    }
  } catch (error) {
    throw error instanceof BijouError ? error : damaged();
  }
  return { name, form: 'zip', files };
}

function isFolder(entry: Entry): entry is Exclude<Entry, FileEntry> {
  return entry.directory;
}

function foundFile(entry: FileEntry): FoundFile {
  return {
    path: entry.filename,
    bytes: entry.uncompressedSize,
    async open() {
      if (entry.encrypted) throw encrypted();
      return memorySource(await unpacked(entry));
    },
  };
}

/** What comes out, never more than was announced, held against its checksum. */
async function unpacked(entry: FileEntry): Promise<Uint8Array> {
  const most = entry.uncompressedSize;
  if (most > MOST_SOUND_BYTES) throw tooLarge(most);
  const pieces: Uint8Array[] = [];
  let bytes = 0;
  const taking = new WritableStream<Uint8Array>({
    write(piece) {
      bytes += piece.length;
      if (bytes > most) throw damagedFile();
      pieces.push(piece.slice());
    },
  });
  try {
    await entry.getData(taking, { checkSignature: true });
  } catch {
    throw damagedFile();
  }
  if (bytes !== most) throw damagedFile();
  return joinBytes(...pieces);
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

function tooLarge(bytes: number): BijouError {
  return new BijouError(
    'too-large',
    `It comes to ${count(bytes)} bytes; a host reads files of at most ${count(MOST_SOUND_BYTES)}.`,
    'Make it shorter or smaller.',
  );
}
