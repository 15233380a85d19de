/** Hann window for stretches that follow one another: half-overlapping ones add up to 1. */
export function hann(length: number): Float64Array {
  return Float64Array.from({ length }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / length));
}
