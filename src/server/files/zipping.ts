import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { configure, ZipWriter } from '@zip.js/zip.js';
import { createCRC32, crc32 } from 'hash-wasm';
import { encodeText } from '@/core/formats/bits';

configure({ useWebWorkers: false });

/** A file to be put into a zip, under a path with plain slashes. */
export interface ZippedFile {
  path: string;
  /** Or where it lies. */
  content: string | Uint8Array | { file: string };
}

/** The first day that a zip can name: the same files give the same bytes, whenever and wherever. */
const DATE = new Date(1980, 0, 1);

/**
 * Writes a zip as it is read: files are asked for one after the other, and none of it is kept in memory. Sounds are
 * stored as they are; size and checksum stand in front of each, so that readers that go from front to back take it.
 */
export function zipStream(files: AsyncIterable<ZippedFile>): ReadableStream<Uint8Array> {
  const { readable, writable } = new TransformStream<Uint8Array, Uint8Array>();
  write(files, writable).catch((error: unknown) => writable.abort(error).catch(() => undefined));
  return readable;
}

async function write(
  files: AsyncIterable<ZippedFile>,
  writable: WritableStream<Uint8Array>,
): Promise<void> {
  const zip = new ZipWriter(writable, {
    level: 0,
    passThrough: true,
    compressionMethod: 0,
    dataDescriptor: false,
    extendedTimestamp: false,
    msDosCompatible: true,
    lastModDate: DATE,
    keepOrder: true,
  });
  for await (const { path, content } of files) {
    const { stream, bytes, checksum } = await opened(content);
    await zip.add(path, stream, { uncompressedSize: bytes, signature: checksum });
  }
  await zip.close();
}

async function opened(content: ZippedFile['content']) {
  if (typeof content === 'string' || content instanceof Uint8Array) {
    const bytes = typeof content === 'string' ? encodeText(content) : content;
    const checksum = parseInt(await crc32(bytes), 16);
    return { stream: new Blob([new Uint8Array(bytes)]).stream(), bytes: bytes.length, checksum };
  }
  const counter = (await createCRC32()).init();
  for await (const piece of createReadStream(content.file)) counter.update(piece as Buffer);
  const { size } = await stat(content.file);
  const stream = Readable.toWeb(createReadStream(content.file)) as ReadableStream<Uint8Array>;
  return { stream, bytes: size, checksum: parseInt(counter.digest('hex'), 16) };
}
