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
