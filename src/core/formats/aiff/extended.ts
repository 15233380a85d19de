/** The 80-bit floating point numbers in which AIFF states its rate (IEEE 754 extended precision). */

export function readExtended(bytes: Uint8Array, at: number): number {
  const view = new DataView(bytes.buffer, bytes.byteOffset + at, 10);
  const exponent = view.getUint16(0) & 0x7fff;
  const mantissa = view.getUint32(2) * 2 ** 32 + view.getUint32(6);
  const value = mantissa * 2 ** (exponent - 16_383 - 63);
  return view.getUint8(0) & 0x80 ? -value : value;
}

/** For positive whole numbers below 2^32, which all rates are. */
export function writeExtended(value: number): Uint8Array {
  const bytes = new Uint8Array(10);
  const view = new DataView(bytes.buffer);
  const shift = Math.clz32(value);
  view.setUint16(0, 16_383 + 31 - shift);
  view.setUint32(2, (value << shift) >>> 0);
  return bytes;
}
