import { createHash, randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { access, mkdir, rename, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { BijouError } from '@/core/errors';
import { mostBytes, tooLarge } from '../limits';
import { writeTemporary } from './bytes';

/** Files that belong to one stored file and can be made again from it. */
export type Derived = 'peaks' | 'pcm.wav';

/** Files under the SHA-256 of their content: written once, never changed. */
export class FileStore {
  private readonly files: string;
  private readonly temporary: string;

  constructor(dataDir: string) {
    this.files = join(dataDir, 'files');
    this.temporary = join(dataDir, 'tmp');
  }

  /** Throws away what a crash left half-written. Only while nothing else works in the folder. */
  async prepare(): Promise<void> {
    await rm(this.temporary, { recursive: true, force: true });
    await mkdir(this.temporary, { recursive: true });
    await mkdir(this.files, { recursive: true });
  }

  path(sha256: string, derived?: Derived): string {
    if (!/^[0-9a-f]{64}$/.test(sha256)) throw new Error('not a content address');
    return join(this.files, sha256.slice(0, 2), derived ? `${sha256}.${derived}` : sha256);
  }

  temporaryPath(): string {
    return join(this.temporary, randomUUID());
  }

  async has(sha256: string, derived?: Derived): Promise<boolean> {
    return access(this.path(sha256, derived)).then(
      () => true,
      () => false,
    );
  }

  /**
   * Takes in a stream of bytes, whole or not at all.
   * `expectedBytes` is what the sender announced; fewer mean that the sending was cut off.
   * @throws too-large, cut-off, empty-file
   */
  async add(
    stream: AsyncIterable<Uint8Array>,
    expectedBytes: number | null,
  ): Promise<{ sha256: string; bytes: number }> {
    if (expectedBytes !== null && expectedBytes > mostBytes()) throw tooLarge();
    const temporary = this.temporaryPath();
    const hash = createHash('sha256');
    let bytes = 0;
    try {
      await writeTemporary(temporary, async (sink) => {
        for await (const piece of whileConnected(stream)) {
          bytes += piece.length;
          if (bytes > mostBytes()) throw tooLarge();
          hash.update(piece);
          await sink.write(piece);
        }
        if (expectedBytes !== null && bytes < expectedBytes) throw cutOff();
        if (bytes === 0) throw emptyFile();
      });
      const sha256 = hash.digest('hex');
      await this.place(temporary, sha256);
      return { sha256, bytes };
    } finally {
      await rm(temporary, { force: true });
    }
  }

  /** Moves a complete temporary file in under its address. */
  async place(temporary: string, sha256: string, derived?: Derived): Promise<void> {
    const path = this.path(sha256, derived);
    await mkdir(dirname(path), { recursive: true });
    await rename(temporary, path);
  }

  /** Removes a stored file and everything derived from it. */
  async remove(sha256: string): Promise<void> {
    for (const path of [
      this.path(sha256),
      this.path(sha256, 'peaks'),
      this.path(sha256, 'pcm.wav'),
    ]) {
      await rm(path, { force: true });
    }
  }
}

/** A broken connection ends the stream with an error of the transport's own. */
export async function* whileConnected(
  stream: AsyncIterable<Uint8Array>,
): AsyncGenerator<Uint8Array> {
  try {
    yield* stream;
  } catch (error) {
    throw error instanceof BijouError ? error : cutOff();
  }
}

export async function sha256OfFile(path: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const piece of createReadStream(path)) hash.update(piece as Buffer);
  return hash.digest('hex');
}

function cutOff(): BijouError {
  return new BijouError(
    'cut-off',
    'The upload was cut off before its end; nothing of it was kept.',
    'Bring the file in again.',
  );
}

export function emptyFile(): BijouError {
  return new BijouError(
    'empty-file',
    'The file is empty: it has 0 bytes.',
    'Check that it was copied or downloaded to the end.',
  );
}
