/** Small helpers for reading and writing headers. */

export function ascii(bytes: Uint8Array, start: number, length: number): string {
  return String.fromCharCode(...bytes.subarray(start, start + length));
}

export function viewOf(bytes: Uint8Array): DataView {
  return new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
}

export function indexOfAscii(bytes: Uint8Array, text: string, from = 0): number {
  outer: for (let i = from; i + text.length <= bytes.length; i++) {
    for (let j = 0; j < text.length; j++) if (bytes[i + j] !== text.charCodeAt(j)) continue outer;
    return i;
  }
  return -1;
}

export function joinBytes(...parts: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}

/** Text up to its first NUL, read as UTF-8 where that is what it is, else as ISO 8859-1. */
export function decodeText(bytes: Uint8Array): string {
  const end = bytes.indexOf(0);
  const body = end < 0 ? bytes : bytes.subarray(0, end);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(body);
  } catch {
    return new TextDecoder('latin1').decode(body);
  }
}

/** UTF-8, cut between letters where it would take more than `mostBytes`. */
export function encodeText(text: string, mostBytes = Infinity): Uint8Array {
  const bytes = new TextEncoder().encode(text);
  let end = Math.min(bytes.length, mostBytes);
  while (end < bytes.length && (bytes[end]! & 0xc0) === 0x80) end--;
  return bytes.subarray(0, end);
}

/** Builds headers field by field; every method answers the builder itself. */
export class ByteWriter {
  private view = new DataView(new ArrayBuffer(256));
  length = 0;

  /** Puts a field of `bytes` bytes behind the others. The view is handed over only once there is room. */
  private put(bytes: number, set: (view: DataView, at: number) => void): this {
    const at = this.length;
    this.length += bytes;
    if (this.length > this.view.byteLength) {
      const grown = new Uint8Array(this.length * 2);
      grown.set(new Uint8Array(this.view.buffer));
      this.view = new DataView(grown.buffer);
    }
    set(this.view, at);
    return this;
  }

  u8(value: number): this {
    return this.put(1, (view, at) => view.setUint8(at, value));
  }

  u16le(value: number): this {
    return this.put(2, (view, at) => view.setUint16(at, value, true));
  }

  u32le(value: number): this {
    return this.put(4, (view, at) => view.setUint32(at, value, true));
  }

  i64le(value: bigint): this {
    return this.put(8, (view, at) => view.setBigInt64(at, value, true));
  }

  u16be(value: number): this {
    return this.put(2, (view, at) => view.setUint16(at, value));
  }

  u24be(value: number): this {
    return this.u8(value >>> 16).u16be(value & 0xffff);
  }

  u32be(value: number): this {
    return this.put(4, (view, at) => view.setUint32(at, value));
  }

  f64be(value: number): this {
    return this.put(8, (view, at) => view.setFloat64(at, value));
  }

  /** ASCII, such as a chunk's name. */
  text(value: string): this {
    for (const letter of value) this.u8(letter.charCodeAt(0));
    return this;
  }

  raw(bytes: Uint8Array): this {
    return this.put(bytes.length, (view, at) => new Uint8Array(view.buffer).set(bytes, at));
  }

  bytes(): Uint8Array {
    return new Uint8Array(this.view.buffer, 0, this.length).slice();
  }
}

/** Chunks of IFF and RIFF take an even number of bytes. */
export function evenBytes(bytes: number): number {
  return bytes + (bytes % 2);
}
