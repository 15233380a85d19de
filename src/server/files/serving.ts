import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { Readable } from 'node:stream';
import rangeParser from 'range-parser';

/** What is asked of a stored file, as HTTP says it; null where nothing is. */
export interface Asking {
  range: string | null;
  ifRange: string | null;
  ifNoneMatch: string | null;
}

/** An answer as HTTP says it. */
export interface Served {
  status: 200 | 206 | 304 | 416;
  headers: Record<string, string>;
  stream: ReadableStream<Uint8Array> | null;
}

/**
 * Reads a stored file that never changes, or one span of it, as RFC 9110 has it. Several spans at once are
 * answered with the whole file, as that allows.
 */
export async function serveStored(path: string, sha256: string, asked: Asking): Promise<Served> {
  const { size } = await stat(path);
  const tag = `"${sha256}"`;
  const headers: Record<string, string> = { ETag: tag, 'Accept-Ranges': 'bytes' };
  if (asked.ifNoneMatch?.split(',').some((one) => one.trim().replace(/^W\//, '') === tag)) {
    return { status: 304, headers, stream: null };
  }
  const isSame = asked.ifRange === null || asked.ifRange === tag;
  const ranges = asked.range !== null && isSame ? rangeParser(size, asked.range) : -2;
  if (ranges === -1) {
    return { status: 416, headers: { 'Content-Range': `bytes */${size}` }, stream: null };
  }
  const one = ranges !== -2 && ranges.type === 'bytes' && ranges.length === 1 ? ranges[0] : null;
  const { start, end } = one ?? { start: 0, end: size - 1 };
  if (one) headers['Content-Range'] = `bytes ${start}-${end}/${size}`;
  const stream = size > 0 ? Readable.toWeb(createReadStream(path, { start, end })) : null;
  return {
    status: one ? 206 : 200,
    headers: { ...headers, 'Content-Length': String(end - start + 1) },
    stream: stream as ReadableStream<Uint8Array> | null,
  };
}
