/** Random access to bytes that may be too many to hold. Implemented over files, blobs and memory. */
export interface ByteSource {
  readonly size: number;
  /** Reads up to `length` bytes at `offset`; fewer only where the source ends. */
  read(offset: number, length: number): Promise<Uint8Array>;
}

/** Where encoders put their bytes: appended, or patched at a place that was written before. */
export interface ByteSink {
  write(bytes: Uint8Array, at?: number): Promise<void>;
}

export function memorySource(bytes: Uint8Array): ByteSource {
  return {
    size: bytes.length,
    read: async (offset, length) => bytes.subarray(offset, Math.min(bytes.length, offset + length)),
  };
}

const CHUNK_BYTES = 1 << 20;

/** A source that keeps in memory whatever was read of it once. */
export function remembered(source: ByteSource): ByteSource {
  const chunks = new Map<number, Promise<Uint8Array>>();
  const chunk = (index: number) => {
    const known = chunks.get(index);
    if (known) return known;
    const read = source.read(index * CHUNK_BYTES, CHUNK_BYTES).then((bytes) => bytes.slice());
    chunks.set(index, read);
    return read;
  };
  return {
    size: source.size,
    async read(offset, length) {
      const end = Math.min(source.size, offset + length);
      const first = Math.floor(offset / CHUNK_BYTES);
      const place = offset - first * CHUNK_BYTES;
      if (end <= (first + 1) * CHUNK_BYTES) {
        return (await chunk(first)).subarray(place, place + Math.max(0, end - offset));
      }
      const whole = new Uint8Array(end - offset);
      for (let index = first; index * CHUNK_BYTES < end; index++) {
        const at = index * CHUNK_BYTES - offset;
        const bytes = await chunk(index);
        whole.set(bytes.subarray(Math.max(0, -at), end - offset - at), Math.max(0, at));
      }
      return whole;
    },
  };
}

/** A sink that keeps everything in memory, for tests and short sounds. */
export class MemorySink implements ByteSink {
  private buffer = new Uint8Array(1 << 16);
  private length = 0;

  async write(bytes: Uint8Array, at = this.length): Promise<void> {
    const end = at + bytes.length;
    if (end > this.buffer.length) {
      const grown = new Uint8Array(Math.max(end, this.buffer.length * 2));
      grown.set(this.buffer.subarray(0, this.length));
      this.buffer = grown;
    }
    this.buffer.set(bytes, at);
    this.length = Math.max(this.length, end);
  }

  get size(): number {
    return this.length;
  }

  /** A part without copying; valid until the next write. */
  view(offset: number, length: number): Uint8Array {
    return this.buffer.subarray(offset, Math.min(this.length, offset + length));
  }

  bytes(): Uint8Array {
    return this.buffer.slice(0, this.length);
  }
}

/**
 * Reads a source from `offset` to its end in pieces of at most `pieceBytes`. Where the first ones should be there soon,
 * they begin with `firstBytes` and double.
 */
export async function* pieces(
  source: ByteSource,
  offset = 0,
  end = source.size,
  pieceBytes = 1 << 18,
  firstBytes = pieceBytes,
): AsyncGenerator<Uint8Array> {
  let most = firstBytes;
  for (let at = offset; at < end; most = Math.min(2 * most, pieceBytes)) {
    const piece = await source.read(at, Math.min(most, end - at));
    if (piece.length === 0) return;
    yield piece;
    at += piece.length;
  }
}

/** Bytes that are put aside while something is made, and thrown away behind it. */
export interface Scratch extends ByteSink, ByteSource {
  free(): Promise<void>;
}

/** Puts aside in memory, for short sounds. */
export function memoryScratch(): Promise<Scratch> {
  const sink = new MemorySink();
  return Promise.resolve({
    get size() {
      return sink.size;
    },
    write: (bytes, at) => sink.write(bytes, at),
    read: async (offset, length) => sink.view(offset, length),
    free: async () => undefined,
  });
}
