/**
 * TPDF dither, 2 LSB peak to peak: the difference of two uniform variables of 1 LSB each
 * (Lipshitz, Wannamaker and Vanderkooy, "Quantization and Dither", JAES 40/5, 1992).
 * The generator is seeded, so the same sound always gives the same bytes.
 */
export class TpdfDither {
  private state: number;
  private values = new Float64Array(0);

  constructor(seed = 0x6d2b79f5) {
    this.state = seed | 0 || 1;
  }

  /** The next values in units of the target's LSB, each between −1 and 1, mean 0; valid until the next call. */
  take(count: number): Float64Array {
    if (this.values.length < count) this.values = new Float64Array(count);
    const { values } = this;
    let x = this.state;
    for (let i = 0; i < count; i++) {
      // xorshift32 (Marsaglia, 2003), twice.
      x ^= x << 13;
      x ^= x >>> 17;
      x ^= x << 5;
      const first = x >>> 0;
      x ^= x << 13;
      x ^= x >>> 17;
      x ^= x << 5;
      values[i] = (first - (x >>> 0)) / 4_294_967_296;
    }
    this.state = x;
    return values;
  }
}
