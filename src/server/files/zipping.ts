import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { readFile, stat } from 'node:fs/promises';
import { createCRC32 } from 'hash-wasm';
import { BijouError } from '@/core/errors';
import { centralHeader, endOfZip, localHeader, type ZippedEntry } from './zipRecords';

/** A file to be put into a zip, under a path with plain slashes. */
export interface ZippedFile {
  path: string;
  /** Or where it lies, and which bytes it must have, where that is known. */
  content: string | Uint8Array | { file: string; sha256?: string };
}

/** Up to here a file is read once; larger ones twice, the first time for their checksum. */
const SMALL_BYTES = 4e6;
const PIECE_BYTES = 1 << 18;

/**
 * Writes a zip as it is read: files are asked for one after the other, and none of it is kept in memory. Sounds are
 * stored as they are; size and checksum stand in front of each, so that readers that go from front to back take it.
 * The same files in the same order give the same bytes.
 */
export function zipStream(files: AsyncIterable<ZippedFile>): ReadableStream<Uint8Array> {
  const pieces = zipped(files);
  return new ReadableStream<Uint8Array>(
    {
      async pull(controller) {
        const { value, done } = await pieces.next();
        if (done) controller.close();
        else controller.enqueue(value);
      },
      async cancel() {
        await pieces.return(undefined);
      },
    },
    { highWaterMark: 0 },
  );
}

async function* zipped(files: AsyncIterable<ZippedFile>): AsyncGenerator<Uint8Array> {
  const entries: ZippedEntry[] = [];
  let offset = 0;
  const counter = await createCRC32();
  const checksum = () => parseInt(counter.digest('hex'), 16);
  for await (const { path, content } of files) {
    const found = await opened(content);
    const hash = found.sha256 === undefined ? null : createHash('sha256');
    counter.init();
    for await (const piece of found.bytes ? [found.bytes] : streamed(found.file)) {
      counter.update(piece);
      hash?.update(piece);
    }
    if (hash && hash.digest('hex') !== found.sha256) throw changedMeanwhile(path);
    const entry: ZippedEntry = { path, size: found.size, checksum: checksum(), offset };
    entries.push(entry);
    const header = localHeader(entry);
    yield header;
    if (found.bytes) yield found.bytes;
    else yield* sameAgain(found.file, entry);
    offset += header.length + entry.size;
  }
  let listed = 0;
  for (const entry of entries) {
    const header = centralHeader(entry);
    listed += header.length;
    yield header;
  }
  yield endOfZip({ entries: entries.length, offset, bytes: listed });
}

/** The bytes of a file that has been read before. @throws damaged-sound when they are others now */
async function* sameAgain(file: string, { path, checksum }: ZippedEntry) {
  const counter = await createCRC32();
  counter.init();
  for await (const piece of streamed(file)) {
    counter.update(piece);
    yield piece;
  }
  if (parseInt(counter.digest('hex'), 16) !== checksum) throw changedMeanwhile(path);
}

function changedMeanwhile(path: string): BijouError {
  return new BijouError(
    'damaged-sound',
    `The finished file of ${path} is not as it was when it was proven.`,
    'Build it again.',
  );
}

type Opened = { size: number; sha256?: string | undefined } & (
  { bytes: Uint8Array; file?: undefined } | { bytes: null; file: string }
);

async function opened(content: ZippedFile['content']): Promise<Opened> {
  if (typeof content === 'string') content = new TextEncoder().encode(content);
  if (content instanceof Uint8Array) return { size: content.length, bytes: content };
  const { file, sha256 } = content;
  const { size } = await stat(file);
  if (size > SMALL_BYTES) return { size, bytes: null, file, sha256 };
  const bytes = await readFile(file);
  return { size: bytes.length, bytes, sha256 };
}

function streamed(file: string): AsyncIterable<Uint8Array> {
  return createReadStream(file, { highWaterMark: PIECE_BYTES });
}
