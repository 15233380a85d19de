/** White noise between −1 and 1, one value a call (xorshift32; Marsaglia, 2003). Same seed, same values. */
export function noiseSource(seed: number): () => number {
  let state = seed | 0 || 1;
  return () => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    return (state >>> 0) / 2_147_483_648 - 1;
  };
}
