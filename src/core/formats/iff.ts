import type { ByteSource } from '../bytes/source';
import { ascii, viewOf } from './bits';
import { PartCounter } from './parts';

/** The head of a chunk: a name of four letters, and how many bytes it says that it has. */
export interface IffChunk {
  id: string;
  /** Where its head and its body begin. */
  at: number;
  start: number;
  stated: number;
  /** The body up to so many bytes; null where the file has kept enough already. */
  body(): Promise<Uint8Array | null>;
}

/** Chunks other than the sound are read up to this size. */
const MOST_CHUNK_BYTES = 1 << 20;

/**
 * The chunks of a RIFF file (numbers little-endian) or an IFF file (big-endian) behind its head of twelve
 * bytes. What is walked over is not read. `skip` passes over so many bytes instead of those that were stated.
 * @throws damaged-header where there are more than any real file has
 */
export async function* iffChunks(
  source: ByteSource,
  isLittle: boolean,
): AsyncGenerator<IffChunk, void, number | undefined> {
  const counter = new PartCounter(isLittle ? 'The WAV file' : 'The AIFF file');
  for (let at = 12; at + 8 <= source.size;) {
    const head = await source.read(at, 8);
    if (head.length < 8) return;
    counter.add(at);
    const start = at + 8;
    const stated = viewOf(head).getUint32(4, isLittle);
    const skip = yield {
      id: ascii(head, 0, 4),
      at,
      start,
      stated,
      async body() {
        const bytes = Math.min(stated, MOST_CHUNK_BYTES, source.size - start);
        return counter.keep(bytes) ? source.read(start, bytes) : null;
      },
    };
    const bytes = skip ?? stated;
    at = start + bytes + (bytes % 2);
  }
}

/** The bodies of some chunks by their names, in the order of the file. */
export class KeptChunks {
  private readonly byId = new Map<string, Uint8Array[]>();

  keep(id: string, body: Uint8Array): void {
    const list = this.byId.get(id);
    if (list) list.push(body);
    else this.byId.set(id, [body]);
  }

  all(id: string): readonly Uint8Array[] {
    return this.byId.get(id) ?? [];
  }

  first(id: string): Uint8Array | undefined {
    return this.byId.get(id)?.[0];
  }
}
