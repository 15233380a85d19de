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

/** Reads a source from `offset` to its end in pieces of at most `pieceBytes`. */
export async function* pieces(
  source: ByteSource,
  offset = 0,
  end = source.size,
  pieceBytes = 1 << 18,
): AsyncGenerator<Uint8Array> {
  for (let at = offset; at < end;) {
    const piece = await source.read(at, Math.min(pieceBytes, end - at));
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
