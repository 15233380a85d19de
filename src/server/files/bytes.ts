import { constants } from 'node:fs';
import { open, rename, rm, link, mkdir, stat, type FileHandle } from 'node:fs/promises';
import { dirname } from 'node:path';
import type { ByteSink, ByteSource, Scratch } from '@/core/bytes/source';
import { BijouError } from '@/core/errors';

/** Random access to a plain file, until it is closed. @throws not-allowed for a folder, pipe or device */
export async function openFile(path: string | Buffer) {
  // Opening a pipe waits for whoever writes to it, and a device may do anything.
  if (!(await stat(path)).isFile()) throw noPlainFile();
  const file = await open(path, constants.O_RDONLY | constants.O_NONBLOCK);
  const found = await file.stat();
  if (!found.isFile()) {
    await file.close();
    throw noPlainFile();
  }
  const { size } = found;
  const source: ByteSource = {
    size,
    read: (offset, length) => readAt(file, offset, length, size),
  };
  return { source, close: () => file.close() };
}

function noPlainFile(): BijouError {
  return new BijouError(
    'not-allowed',
    'It is no plain file, but a folder, a pipe or a device.',
    'Name a file; what comes through a pipe is read from standard input, with - as its name.',
  );
}

/** Runs `use` with random access to a file, and closes it whatever happens. */
export async function withFile<T>(
  path: string | Buffer,
  use: (source: ByteSource) => Promise<T>,
): Promise<T> {
  const { source, close } = await openFile(path);
  try {
    return await use(source);
  } finally {
    await close();
  }
}

async function readAt(file: FileHandle, offset: number, length: number, size: number) {
  const bytes = new Uint8Array(Math.max(0, Math.min(length, size - offset)));
  let got = 0;
  while (got < bytes.length) {
    const { bytesRead } = await file.read(bytes, got, bytes.length - got, offset + got);
    if (bytesRead === 0) break;
    got += bytesRead;
  }
  return bytes.subarray(0, got);
}

/** Small writes are gathered: encoders hand out a few hundred bytes at a time. */
const GATHER_BYTES = 1 << 18;

/** A sink over an open file. `flush` must be called before the file is closed. */
function fileSink(file: FileHandle): ByteSink & { flush(): Promise<void> } {
  let waiting: Uint8Array[] = [];
  let waitingBytes = 0;
  let flushedTo = 0;
  async function put(bytes: Uint8Array, at: number) {
    for (let done = 0; done < bytes.length;) {
      const { bytesWritten } = await file.write(bytes, done, bytes.length - done, at + done);
      done += bytesWritten;
    }
  }
  async function flush() {
    if (waitingBytes === 0) return;
    const joined = waiting.length === 1 ? waiting[0]! : Buffer.concat(waiting);
    waiting = [];
    waitingBytes = 0;
    await put(joined, flushedTo);
    flushedTo += joined.length;
  }
  return {
    flush,
    async write(bytes, at) {
      if (at !== undefined && at !== flushedTo + waitingBytes) {
        await flush();
        await put(bytes, at);
        flushedTo = Math.max(flushedTo, at + bytes.length);
        return;
      }
      waiting.push(bytes.slice());
      waitingBytes += bytes.length;
      if (waitingBytes >= GATHER_BYTES) await flush();
    },
  };
}

/**
 * Writes a file whole or not at all: under `temporary` until it is complete and on the disk.
 * The temporary file is gone afterwards, whatever happened.
 */
export async function writeTemporary<T>(
  temporary: string,
  write: (sink: ByteSink) => Promise<T>,
): Promise<T> {
  await mkdir(dirname(temporary), { recursive: true });
  const file = await open(temporary, 'wx');
  try {
    const sink = fileSink(file);
    const result = await write(sink);
    await sink.flush();
    await file.sync();
    await file.close();
    return result;
  } catch (error) {
    await file.close().catch(() => undefined);
    await rm(temporary, { force: true });
    throw error;
  }
}

/** Puts bytes aside in a file that nobody else sees: its name is gone as soon as it is open. */
export async function fileScratch(path: string): Promise<Scratch> {
  await mkdir(dirname(path), { recursive: true });
  const file = await open(path, 'wx+');
  await rm(path, { force: true });
  const sink = fileSink(file);
  let size = 0;
  return {
    get size() {
      return size;
    },
    async write(bytes, at = size) {
      await sink.write(bytes, at);
      size = Math.max(size, at + bytes.length);
    },
    async read(offset, length) {
      await sink.flush();
      return readAt(file, offset, length, size);
    },
    free: () => file.close(),
  };
}

/** Makes sure that the names in a folder are on the disk. Not every system lets folders be opened. */
export async function syncFolder(path: string): Promise<void> {
  const folder = await open(path, 'r').catch(() => null);
  await folder?.sync().catch(() => undefined);
  await folder?.close();
}

/** What file systems answer that have no hard links, such as those of memory cards. */
const withoutLinks = new Set(['EPERM', 'ENOTSUP', 'EOPNOTSUPP', 'ENOSYS', 'EMLINK']);

/** Takes a name that is free by an empty file of that name, and puts the whole one in its place. */
async function claim(temporary: string, path: string): Promise<void> {
  await (await open(path, 'wx')).close();
  try {
    await rename(temporary, path);
  } catch (error) {
    await rm(path, { force: true });
    throw error;
  }
}

/** Gives a complete temporary file its name. @throws already-there unless `overwrite` is set. */
export async function putInPlace(
  temporary: string,
  path: string,
  overwrite: boolean,
): Promise<void> {
  try {
    if (overwrite) {
      await rename(temporary, path);
    } else {
      // A hard link fails where the name is taken, without the gap between looking and renaming.
      await link(temporary, path).catch((error: NodeJS.ErrnoException) => {
        if (!withoutLinks.has(error.code ?? '')) throw error;
        return claim(temporary, path);
      });
    }
    await syncFolder(dirname(path));
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'EEXIST') throw alreadyThere(path);
    throw error;
  } finally {
    await rm(temporary, { force: true });
  }
}

export function alreadyThere(path: string): BijouError {
  return new BijouError(
    'already-there',
    `"${path}" is already there and was left as it is.`,
    'Use --overwrite to replace it, or choose another folder.',
  );
}
