import { createHash, randomUUID, type Hash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { access, mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { BijouError } from '@/core/errors';
import { mostBytes, tooLarge } from '../limits';
import { syncFolder, writeTemporary } from './bytes';
import { derivedKinds, DerivedFiles, type Derived } from './derived';
import { Turns } from './turns';

/**
 * Files under the SHA-256 of their content: written once, never changed. Raw samples lie under the hash
 * of content and description, for the same bytes are other sounds when they are read otherwise.
 */
export class FileStore {
  private readonly files: string;
  private readonly temporary: string;
  private readonly alone = new Turns();
  /** What can be made again. */
  readonly derived: DerivedFiles;

  constructor(readonly dataDir: string) {
    this.files = join(dataDir, 'files');
    this.temporary = join(dataDir, 'tmp');
    this.derived = new DerivedFiles((sha256, kind) => this.path(sha256, kind));
  }

  /** Throws away what a crash left half-written. Only while nothing else works in the folder. */
  async prepare(): Promise<void> {
    await rm(this.temporary, { recursive: true, force: true });
    await mkdir(this.temporary, { recursive: true });
    await mkdir(this.files, { recursive: true });
  }

  /**
   * Removes what nothing needs, as a crash leaves it between a file and what is written down of it.
   * Only while nothing else works in the folder.
   */
  async sweep(needed: ReadonlySet<string>): Promise<void> {
    const files = await this.all();
    const stored = new Set(files.flatMap(({ sha256, kind }) => (kind ? [] : [sha256])));
    for (const { sha256, kind, bytes, usedAt } of files) {
      if (!needed.has(sha256) || !stored.has(sha256)) await this.remove(sha256);
      else if (kind) this.derived.know(sha256, kind, bytes, usedAt);
    }
    await this.derived.makeRoom();
  }

  /** Every file in the store, those used longest ago first. */
  private async all() {
    const names = await readdir(this.files, { recursive: true, withFileTypes: true });
    const files = names.map(async ({ name, parentPath }) => {
      const [, sha256, kind] = /^([0-9a-f]{64})(?:\.(peaks|pcm\.wav))?$/.exec(name) ?? [];
      if (!sha256) return [];
      const { size: bytes, mtimeMs: usedAt } = await stat(join(parentPath, name));
      return [{ sha256, kind: kind as Derived | undefined, bytes, usedAt }];
    });
    return (await Promise.all(files)).flat().sort((a, b) => a.usedAt - b.usedAt);
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

  /** How many bytes a stored file and everything derived from it take; 0 where there is none. */
  async bytesOf(sha256: string): Promise<number> {
    const sizes = this.everyPath(sha256).map((path) =>
      stat(path).then(
        ({ size }) => size,
        () => 0,
      ),
    );
    return (await Promise.all(sizes)).reduce((sum, size) => sum + size, 0);
  }

  /**
   * Takes in a stream of bytes, whole or not at all. `keep` writes down who needs them, while nobody can
   * find that nobody does. `expectedBytes` is what the sender announced; fewer mean that the sending was cut off.
   * @throws too-large, cut-off, empty-file
   */
  async add<Kept>(
    stream: AsyncIterable<Uint8Array>,
    expectedBytes: number | null,
    keep: (sha256: string, bytes: number) => Kept,
    description: object | null = null,
  ): Promise<Kept> {
    const hash = createHash('sha256');
    return this.receive(stream, expectedBytes, hash, (temporary, bytes) => {
      if (description) hash.update(JSON.stringify(description));
      const sha256 = hash.digest('hex');
      return this.while(sha256, async () => {
        await this.place(temporary, sha256);
        return keep(sha256, bytes);
      });
    });
  }

  /** Takes in a stream of bytes for as long as `use` looks at them, and keeps nothing. @throws as `add` */
  lookAt<T>(
    stream: AsyncIterable<Uint8Array>,
    expectedBytes: number | null,
    use: (path: string, bytes: number) => Promise<T>,
  ): Promise<T> {
    return this.receive(stream, expectedBytes, null, use);
  }

  private async receive<T>(
    stream: AsyncIterable<Uint8Array>,
    expectedBytes: number | null,
    hash: Hash | null,
    use: (temporary: string, bytes: number) => Promise<T>,
  ): Promise<T> {
    if (expectedBytes !== null && expectedBytes > mostBytes()) throw tooLarge();
    const temporary = this.temporaryPath();
    let bytes = 0;
    try {
      await writeTemporary(temporary, async (sink) => {
        for await (const piece of whileConnected(stream)) {
          bytes += piece.length;
          if (bytes > mostBytes()) throw tooLarge();
          hash?.update(piece);
          await sink.write(piece);
        }
        if (expectedBytes !== null && bytes < expectedBytes) throw cutOff();
        if (bytes === 0) throw emptyFile();
      });
      return await use(temporary, bytes);
    } finally {
      await rm(temporary, { force: true });
    }
  }

  /** Does something about a stored file while nobody else does anything about it. */
  while<T>(sha256: string, work: () => Promise<T>): Promise<T> {
    return this.alone.take(sha256, work);
  }

  /** Moves a complete temporary file in under its address. What is there already is not written again. */
  async place(temporary: string, sha256: string, derived?: Derived): Promise<void> {
    const path = this.path(sha256, derived);
    if (!derived && (await this.has(sha256))) return;
    await mkdir(dirname(path), { recursive: true });
    await rename(temporary, path);
    // What can be made again may also be lost.
    if (!derived) return syncFolder(dirname(path));
    const { size, mtimeMs } = await stat(path);
    this.derived.know(sha256, derived, size, mtimeMs);
    await this.derived.makeRoom();
  }

  /** Removes a stored file and everything derived from it. */
  async remove(sha256: string): Promise<void> {
    for (const path of this.everyPath(sha256)) await rm(path, { force: true });
    this.derived.forget(sha256);
    await syncFolder(dirname(this.path(sha256)));
  }

  /** The file itself last: while it is there, what is derived from it is found again. */
  private everyPath(sha256: string): string[] {
    return [...derivedKinds.map((kind) => this.path(sha256, kind)), this.path(sha256)];
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
