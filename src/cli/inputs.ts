import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ByteSource } from '@/core/bytes/source';
import { withFile, writeTemporary } from '@/server/files/bytes';
import { mostBytes, tooLarge } from '@/server/limits';

/** The name that stands for standard input and standard output. */
export const STANDARD = '-';

/** Opens a file, or what comes through standard input, within the limit on size. */
export async function withInput<T>(
  file: string | Buffer,
  use: (source: ByteSource) => Promise<T>,
): Promise<T> {
  const limited = (source: ByteSource) => {
    if (source.size > mostBytes()) throw tooLarge();
    return use(source);
  };
  if (file !== STANDARD) return withFile(file, limited);
  // Headers are read from anywhere in a file, so what streams in is put down first.
  const folder = await mkdtemp(join(tmpdir(), 'bijou-'));
  try {
    const path = join(folder, 'input');
    await writeTemporary(path, async (sink) => {
      let bytes = 0;
      for await (const piece of process.stdin as AsyncIterable<Uint8Array>) {
        bytes += piece.length;
        if (bytes > mostBytes()) throw tooLarge();
        await sink.write(piece);
      }
    });
    return await withFile(path, limited);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
