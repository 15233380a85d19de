import { TpdfDither } from '@/core/dsp/dither';
import { decode, encode, applySteps, step } from './files';
import { sine } from './signals';

/** Dither rests where there is nothing: silence stays silent, and fades end in nothing, at every depth. */

const RATE = 8_000;
const depths = [
  ['wav', { bits: 8 }],
  ['wav', { bits: 16 }],
  ['wav', { bits: 24 }],
  ['aiff', { bits: 16 }],
  ['flac', { bits: 16 }],
  ['flac', { bits: 24 }],
] as const;

test.each(depths)('%s %j', async (writer, settings) => {
  const tone = sine(RATE, 333, RATE, 0.2);
  const sound = new Float32Array(3 * RATE);
  sound.set(tone, RATE);
  const fades = [
    step('fade-out', { frames: 2_000, shape: 's' }),
    step('fade-in', { frames: 500, shape: 'linear' }),
  ];
  const [faded] = await applySteps(fades, [tone], undefined, RATE);
  for (const [channel, isSilent] of [
    [sound, (i: number) => i < RATE || i >= 2 * RATE],
    [faded!, (i: number) => i === 0 || i === RATE - 1],
  ] as const) {
    const { channels } = await decode(await encode([channel], RATE, writer, settings));
    const loud = channels[0]!.findIndex((x, i) => isSilent(i) && x !== 0);
    expect([writer, settings, loud]).toEqual([writer, settings, -1]);
  }
});

test('what is between 0 and the first step keeps its mean: nothing is distorted', async () => {
  // A hundredth of a step, and silence in between: half of the samples are exactly 0.
  const steps = Float32Array.from({ length: 400_000 }, (_, i) => (i % 2 ? 0 : 0.3 / 128));
  const { channels } = await decode(await encode([steps], RATE, 'wav', { bits: 8 }));
  const mean = channels[0]!.reduce((sum, x) => sum + x, 0) / channels[0]!.length;
  expect(mean * 128).toBeCloseTo(0.15, 2);
});

/** Marsaglia's xorshift32 with the shifts 13, 17, 5, in whole numbers of any length. */
function* xorshift32(state: bigint): Generator<number> {
  const word = (x: bigint) => BigInt.asUintN(32, x);
  for (let x = word(state); ;) {
    x = word(x ^ (x << 13n));
    x ^= x >> 17n;
    x = word(x ^ (x << 5n));
    yield Number(x);
  }
}

test('the same values every time, however many are taken at once', () => {
  const dither = new TpdfDither(12_345);
  const taken = [3, 1, 5, 2, 400].flatMap((count) => [...dither.take(count).subarray(0, count)]);
  const uniform = xorshift32(12_345n);
  const next = () => uniform.next().value as number;
  expect(taken).toEqual(taken.map(() => (next() - next()) / 2 ** 32));
  // A generator of this kind never leaves 0: such a seed is not used.
  expect(new TpdfDither(0).take(100)).toEqual(new TpdfDither(1).take(100));
});

test('triangular: two steps wide, without mean, a sixth of a square step strong, each for itself', () => {
  const values = new TpdfDither().take(200_000);
  const mean = (of: (x: number, i: number) => number) =>
    values.reduce((sum, x, i) => sum + of(x, i), 0) / values.length;
  expect(Math.max(...values.map(Math.abs))).toBeLessThan(1);
  expect(mean((x) => x)).toBeCloseTo(0, 2);
  expect(mean((x) => x * x)).toBeCloseTo(1 / 6, 2);
  expect(mean((x) => (Math.abs(x) < 0.5 ? 1 : 0))).toBeCloseTo(3 / 4, 2);
  expect(mean((x, i) => x * (values[i + 1] ?? 0))).toBeCloseTo(0, 2);
});
