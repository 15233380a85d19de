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

export function encodeText(text: string): Uint8Array {
  return new TextEncoder().encode(text);
}

/** Builds headers field by field; every method answers the builder itself. */
export class ByteWriter {
  private view = new DataView(new ArrayBuffer(256));
  length = 0;

  private room(bytes: number): number {
    const at = this.length;
    this.length += bytes;
    if (this.length > this.view.byteLength) {
      const grown = new Uint8Array(this.length * 2);
      grown.set(new Uint8Array(this.view.buffer));
      this.view = new DataView(grown.buffer);
    }
    return at;
  }

  u8(value: number): this {
    this.view.setUint8(this.room(1), value);
    return this;
  }

  u16le(value: number): this {
    this.view.setUint16(this.room(2), value, true);
    return this;
  }

  u32le(value: number): this {
    this.view.setUint32(this.room(4), value, true);
    return this;
  }

  i64le(value: bigint): this {
    this.view.setBigInt64(this.room(8), value, true);
    return this;
  }

  u16be(value: number): this {
    this.view.setUint16(this.room(2), value);
    return this;
  }

  u24be(value: number): this {
    return this.u8(value >>> 16).u16be(value & 0xffff);
  }

  u32be(value: number): this {
    this.view.setUint32(this.room(4), value);
    return this;
  }

  f64be(value: number): this {
    this.view.setFloat64(this.room(8), value);
    return this;
  }

  /** ASCII, such as a chunk's name. */
  text(value: string): this {
    for (const letter of value) this.u8(letter.charCodeAt(0));
    return this;
  }

  raw(bytes: Uint8Array): this {
    const at = this.room(bytes.length);
    new Uint8Array(this.view.buffer).set(bytes, at);
    return this;
  }

  bytes(): Uint8Array {
    return new Uint8Array(this.view.buffer, 0, this.length).slice();
  }
}
