/** Lays numbers of any width behind each other, highest bit first. */
export class BitWriter {
  private readonly bits: number[] = [];

  put(value: number, width: number): this {
    for (let bit = width - 1; bit >= 0; bit--) this.bits.push(Math.floor(value / 2 ** bit) % 2);
    return this;
  }

  /** Filled up with zeros to `length` bytes, or to a whole byte. */
  bytes(length = Math.ceil(this.bits.length / 8)): Uint8Array {
    const out = new Uint8Array(length);
    this.bits.forEach((bit, i) => (out[i >> 3]! |= bit << (7 - (i & 7))));
    return out;
  }
}
