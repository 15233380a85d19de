import { downloadZip } from 'client-zip';
import type { ReadStream } from 'node:fs';

/** A file to be put into a zip, under a path with plain slashes. */
export interface ZippedFile {
  path: string;
  content: string | ReadStream;
}

/** Writes a zip as it is read: files are asked for one after the other, and none of it is kept in memory. */
export function zipStream(files: AsyncIterable<ZippedFile>): ReadableStream<Uint8Array> {
  return downloadZip(inputs(files)).body!;
}

async function* inputs(files: AsyncIterable<ZippedFile>) {
  for await (const { path, content } of files) yield { name: path, input: content };
}
