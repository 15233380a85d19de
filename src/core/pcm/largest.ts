/** The largest amplitude of some samples. */
export function largest(samples: Float32Array): number {
  let most = 0;
  for (let i = 0; i < samples.length; i++) {
    const x = samples[i]!;
    const size = x < 0 ? -x : x;
    if (size > most) most = size;
  }
  return most;
}
