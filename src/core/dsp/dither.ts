/**
 * TPDF dither, 2 LSB peak to peak: the difference of two uniform variables of 1 LSB each
 * (Lipshitz, Wannamaker and Vanderkooy, "Quantization and Dither", JAES 40/5, 1992).
 * The generator is seeded, so the same sound always gives the same bytes.
 */
export class TpdfDither {
  private state: number;

  constructor(seed = 0x6d2b79f5) {
    this.state = seed | 0 || 1;
  }

  /** The next value in units of the target's LSB, between −1 and 1, mean 0. */
  next(): number {
    return (this.uniform() - this.uniform()) / 4_294_967_296;
  }

  /** xorshift32 (Marsaglia, 2003). */
  private uniform(): number {
    let x = this.state;
    x ^= x << 13;
    x ^= x >>> 17;
    x ^= x << 5;
    this.state = x;
    return x >>> 0;
  }
}
