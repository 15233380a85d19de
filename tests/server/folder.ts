import { mkdtemp, readdir, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { buffer } from 'node:stream/consumers';
import yauzl from 'yauzl';
import { openBijou, type Bijou } from '@/server/bijou';
import { Threads } from '@/server/work/threads';

const opened: { bijou: Bijou | null; folder: string }[] = [];

/**
 * Two threads, however many processors there are: tests say what runs and what waits. They are kept from test to test,
 * for they know their way around by then.
 */
let shared: Threads | null = null;

/** A folder that is removed when the tests of a file are over. */
export async function temporaryFolder(): Promise<string> {
  const folder = await mkdtemp(join(tmpdir(), 'bijou-test-'));
  opened.push({ bijou: null, folder });
  return folder;
}

/** The real thing over an empty data folder, with the real worker threads. */
export async function freshBijou(
  folder?: string,
  options: Parameters<typeof openBijou>[1] = {},
): Promise<{ bijou: Bijou; folder: string }> {
  const data = folder ?? (await temporaryFolder());
  shared ??= new Threads(resolve('dist/worker.mjs'), 2);
  const bijou = await openBijou(data, { shared, ...options });
  opened.push({ bijou, folder: data });
  return { bijou, folder: data };
}

export async function cleanUp(): Promise<void> {
  for (const { bijou } of opened) await bijou?.close().catch(() => undefined);
  for (const { folder } of opened) await rm(folder, { recursive: true, force: true });
  opened.length = 0;
}

export async function* streamOf(bytes: Uint8Array, failAfter?: number): AsyncGenerator<Uint8Array> {
  yield bytes.subarray(0, failAfter);
  if (failAfter !== undefined) throw new Error('connection reset');
}

/** What all of them take. */
export async function storedBytes(folder: string): Promise<number> {
  const names = await storedFiles(folder);
  const sizes = names.map((name) => stat(join(folder, 'files', name.slice(0, 2), name)));
  return (await Promise.all(sizes)).reduce((sum, { size }) => sum + size, 0);
}

/** Every file below the data folder that holds somebody's bytes. */
export async function storedFiles(folder: string): Promise<string[]> {
  const lists = await Promise.all(
    ['files', 'tmp'].map((part) =>
      readdir(join(folder, part), { recursive: true, withFileTypes: true }),
    ),
  );
  return lists
    .flat()
    .filter((entry) => entry.isFile())
    .map(({ name }) => name);
}

/** The files of a zip by their paths, as an independent package unpacks them. */
export async function unzipped(
  pieces: AsyncIterable<Uint8Array> | Iterable<Uint8Array> | ReadableStream<Uint8Array>,
): Promise<Map<string, Buffer>> {
  const all: Uint8Array[] = [];
  for await (const piece of pieces as AsyncIterable<Uint8Array>) all.push(piece);
  const zip = await yauzl.fromBufferPromise(Buffer.concat(all), { lazyEntries: true });
  const files = new Map<string, Buffer>();
  for await (const entry of zip.eachEntry()) {
    files.set(entry.fileName, await buffer(await zip.openReadStreamPromise(entry)));
  }
  return files;
}
