/** Where a codec broke a sound: looked for by nothing of Bijou. */

/** Frames that are judged together. */
const STEP = 128;
/** The sound around them, to each side. */
const AROUND = 512;
/** What is quieter than this is not judged, as a mean square. */
const LEAST = 1e-5;

/** Steps of 128 frames with their error against the sound around them, in dB. */
function* steps(sound: Float32Array, decoded: Float32Array, until: number) {
  for (let from = 0; from + STEP <= Math.min(until, sound.length); from += STEP) {
    const near = sound.subarray(Math.max(0, from - AROUND), from + STEP + AROUND);
    const around = power(near);
    if (around < LEAST) continue;
    const errors = sound.subarray(from, from + STEP).map((x, i) => x - decoded[from + i]!);
    yield { from, errorDb: 10 * Math.log10((power(errors) + 1e-12) / around) };
  }
}

function power(sound: Float32Array): number {
  return sound.reduce((sum, x) => sum + x * x, 0) / sound.length;
}

/** Where a start reaches to. */
const START = 2_048;

/**
 * Steps at the start whose error comes within 20 dB of the sound, is worse by 8 dB than behind silence, and worse than
 * usual in the rest of the sound: behind silence some encoders spend far more than they were asked to.
 * @param behindSilence the same sound decoded from a file in which silence stood in front of it, without that silence
 */
export function brokenStarts(
  sound: readonly Float32Array[],
  decoded: readonly Float32Array[],
  behindSilence: readonly Float32Array[],
): number[] {
  return sound.flatMap((channel, c) => {
    const other = new Map(
      [...steps(channel, behindSilence[c]!, START)].map(({ from, errorDb }) => [from, errorDb]),
    );
    const all = [...steps(channel, decoded[c]!, Infinity)].map(({ errorDb }) => errorDb);
    const usual = all.sort((a, b) => a - b)[all.length >> 1]!;
    return [...steps(channel, decoded[c]!, START)]
      .filter(({ errorDb }) => errorDb > Math.max(-20, usual + 3))
      .filter(({ from, errorDb }) => errorDb > other.get(from)! + 8)
      .map(({ from }) => from);
  });
}

/** Steps anywhere whose error is as loud as the sound, within 2 dB. */
export function breaksInside(
  sound: readonly Float32Array[],
  decoded: readonly Float32Array[],
): number[] {
  return sound.flatMap((channel, c) =>
    [...steps(channel, decoded[c]!, Infinity)]
      .filter(({ errorDb }) => errorDb > -2)
      .map(({ from }) => from),
  );
}
