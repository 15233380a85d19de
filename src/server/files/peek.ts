/** The first bytes of a stream, and the stream as it was, with them in front again. */
export async function peek(
  stream: AsyncIterable<Uint8Array>,
  bytes: number,
): Promise<{ head: Uint8Array; whole: AsyncGenerator<Uint8Array> }> {
  const iterator = stream[Symbol.asyncIterator]();
  const first: Uint8Array[] = [];
  let got = 0;
  while (got < bytes) {
    const { value, done } = await iterator.next();
    if (done) break;
    first.push(value);
    got += value.length;
  }
  async function* whole(): AsyncGenerator<Uint8Array> {
    try {
      yield* first;
      for (;;) {
        const { value, done } = await iterator.next();
        if (done) return;
        yield value;
      }
    } finally {
      await iterator.return?.();
    }
  }
  return { head: Buffer.concat(first).subarray(0, bytes), whole: whole() };
}

/** Reads a stream to its end and forgets it: whoever sends it listens to the answer only then. */
export async function drain(stream: AsyncIterable<Uint8Array>): Promise<void> {
  for await (const piece of stream) void piece;
}
