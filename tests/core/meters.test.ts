import fc from 'fast-check';
import type { Measures } from '@/core/measure/analyser';
import { powerToDb, toDb } from '@/core/measure/decibels';
import { measureLevels } from '@/core/measure/levels';
import { sourceFromChannels, streamOf } from '@/core/pcm/source';
import { measure } from './measured';
import { noise, sine } from './signals';

/** Every meter against its definition, written down as plainly as can be; however the sound is cut. */

const RATE = 8_000;

/** Samples of which many are the same, at full scale, or nothing. */
const sample = fc.oneof(
  fc.constantFrom(0, 0.5, -0.5, 1, -1, 127 / 128, -127 / 128, 32_767 / 32_768, 1.5),
  fc.constantFrom(0.001, -0.001, 0.0009, -0.0009, 0.0011, 0.25, 1 / 32_768),
  fc.double({ min: -1, max: 1, noNaN: true }),
);
/** Runs of equal samples, some of which are long enough to be clipping. */
const run = fc.tuple(sample, fc.integer({ min: 1, max: 5 }));
const channels = fc
  .tuple(fc.integer({ min: 1, max: 3 }), fc.array(run, { minLength: 1, maxLength: 12 }))
  .map(([count, runs]): Float32Array[] => {
    const samples = runs.flatMap(([x, length]) => new Array<number>(length).fill(x));
    // The channels lie a little apart, so that none stands for another.
    return Array.from({ length: count }, (_, c) =>
      Float32Array.from([...samples.slice(c), ...samples.slice(0, c)]),
    );
  });
const blockFrames = fc.integer({ min: 1, max: 7 });

function holds(
  check: (sound: Float32Array[], measured: Measures) => void,
  bitDepth: number | null = 24,
): void {
  fc.assert(
    fc.property(channels, blockFrames, (sound, block) => {
      check(sound, measure(sound, { blockFrames: block, bitDepth }));
    }),
    { numRuns: 100 },
  );
}

test('decibels', () => {
  expect([toDb(1), toDb(0), toDb(-1), powerToDb(1), powerToDb(0)]).toEqual([
    0,
    null,
    null,
    0,
    null,
  ]);
  expect(toDb(0.5)).toBeCloseTo(-6.0206, 4);
  expect(powerToDb(0.5)).toBeCloseTo(-3.0103, 4);
});

test('peak, root mean square, mean, correlation, and whether channels are alike', () => {
  const close = (a: number | null, b: number | null) =>
    a === null || b === null ? expect(a).toBe(b) : expect(a).toBeCloseTo(b, 6);
  holds((sound, { peakDbfs, rmsDbfs, dcOffset, correlation, identicalChannels }) => {
    const all = sound.flatMap((channel) => [...channel]);
    const dot = (a: Float32Array, b: Float32Array) => a.reduce((sum, x, i) => sum + x * b[i]!, 0);
    close(peakDbfs, toDb(Math.max(...all.map(Math.abs))));
    close(rmsDbfs, powerToDb(all.reduce((sum, x) => sum + x * x, 0) / all.length));
    const means = sound.map((channel) => channel.reduce((sum, x) => sum + x, 0) / channel.length);
    close(Math.abs(dcOffset), Math.max(...means.map(Math.abs)));
    expect(means.some((mean) => Math.abs(mean - dcOffset) < 1e-9)).toBe(true);
    const [left, right] = sound;
    const both = right ? Math.sqrt(dot(left!, left!) * dot(right, right)) : 0;
    close(correlation, both > 0 ? dot(left!, right!) / both : null);
    expect(identicalChannels).toBe(
      sound.length > 1 && sound.every((channel) => channel.every((x, i) => x === left![i])),
    );
  });
});

test('channels are alike only where all of them are, to the last frame', () => {
  const one = noise(3_000, 1);
  const other = one.slice();
  other[2_999] = 0;
  expect(measure([one, one, one]).identicalChannels).toBe(true);
  expect(measure([one, one, other]).identicalChannels).toBe(false);
  expect(measure([one, other]).identicalChannels).toBe(false);
  expect(measure([one, one.map((x) => -x)])).toMatchObject({ correlation: -1 });
});

test('silence at both ends: up to the first, and behind the last frame above −60 dBFS', () => {
  holds((sound, { headSilenceSeconds, tailSilenceSeconds }) => {
    const isLoud = (_: number, i: number) => sound.some((channel) => Math.abs(channel[i]!) > 0.001);
    const frames = [...sound[0]!];
    const first = frames.findIndex(isLoud);
    const whole = frames.length / RATE;
    expect(headSilenceSeconds).toBe(first < 0 ? whole : first / RATE);
    const behind = frames.length - 1 - frames.findLastIndex(isLoud);
    expect(tailSilenceSeconds).toBe(first < 0 ? whole : behind / RATE);
  });
});

test('a sound that is quiet throughout is silence at both ends; one loud frame is none', () => {
  const quiet = new Float32Array(800).fill(0.0009);
  expect(measure([quiet, quiet])).toMatchObject({
    headSilenceSeconds: 0.1,
    tailSilenceSeconds: 0.1,
  });
  for (const at of [0, 1, 399, 799]) {
    const click = quiet.map((x, i) => (i === at ? -0.002 : x));
    expect(measure([quiet, click], { blockFrames: 90 })).toMatchObject({
      headSilenceSeconds: at / RATE,
      tailSilenceSeconds: (799 - at) / RATE,
    });
  }
});

test.each([
  [8, 127 / 128],
  [16, 32_766.5 / 32_768],
  [null, 32_766.5 / 32_768],
])('clipped runs: three at least behind each other on one side, in %s bits', (bitDepth, limit) => {
  holds((sound, { clippedRuns, clippedPlaces }) => {
    const runs = sound.flatMap((samples, channel) => {
      const signs = [...samples].map((x) => (Math.abs(x) >= limit ? Math.sign(x) : 0));
      return signs.flatMap((sign, startFrame) => {
        if (sign === 0 || signs[startFrame - 1] === sign) return [];
        const end = signs.findIndex((other, i) => i > startFrame && other !== sign);
        const frames = (end < 0 ? signs.length : end) - startFrame;
        return frames < 3 ? [] : [{ channel, startFrame, frames }];
      });
    });
    expect(clippedRuns).toBe(runs.length);
    const order = (a: { startFrame: number; channel: number }, b: typeof a) =>
      a.startFrame - b.startFrame || a.channel - b.channel;
    expect([...clippedPlaces].sort(order)).toEqual(runs.sort(order));
    const starts = clippedPlaces.map(({ startFrame }) => startFrame);
    expect(starts).toEqual([...starts].sort((a, b) => a - b));
  }, bitDepth);
});

test('of very many clipped places the first hundred are named, and all are counted', () => {
  const sound = Float32Array.from({ length: 5 * 140 }, (_, i) => (i % 5 < 4 ? 1 : 0));
  const { clippedRuns, clippedPlaces } = measure([sound]);
  expect([clippedRuns, clippedPlaces.length, clippedPlaces[99]]).toEqual([
    140,
    100,
    { channel: 0, startFrame: 495, frames: 4 },
  ]);
});

test('used bits: of the coarsest grid that holds every sample', () => {
  const onGrid = (samples: number[], bits: number) =>
    samples.every((x) => Number.isInteger(x * 2 ** (bits - 1)));
  holds((sound, { usedBits }) => {
    const all = sound.flatMap((channel) => [...channel]);
    const depths = Array.from({ length: 24 }, (_, i) => i + 1);
    const least = depths.find((bits) => onGrid(all, bits)) ?? null;
    expect(usedBits).toBe(all.every((x) => x === 0) ? 0 : least);
  });
  const steps = (bits: number) => Float32Array.of(0, 2 ** (1 - bits), 0.5);
  expect([2, 3, 8, 16, 23, 24, 25].map((bits) => measure([steps(bits)]).usedBits)).toEqual([
    2,
    3,
    8,
    16,
    23,
    24,
    null,
  ]);
  expect(measure([Float32Array.of(1, -1, 0)]).usedBits).toBe(1);
});

test('normalising is told what it asks for, and nothing else is measured', async () => {
  const sound = sine(48_000, 1_000, 48_000, 0.25);
  const stream = () => streamOf(sourceFromChannels([sound], 48_000));
  const all = await measureLevels(stream());
  const { peakDbfs, truePeakDbtp, lufs } = measure([sound], { rateHz: 48_000 });
  expect(all.peakDbfs).toBe(peakDbfs);
  expect(all.truePeakDbtp).toBeCloseTo(truePeakDbtp!, 9);
  expect(all.lufs).toBeCloseTo(lufs!, 9);
  for (const name of ['peakDbfs', 'truePeakDbtp', 'lufs'] as const) {
    const none = { peakDbfs: null, truePeakDbtp: null, lufs: null, momentaryLufs: null };
    expect(await measureLevels(stream(), [name])).toEqual({
      ...none,
      [name]: all[name],
      ...(name === 'lufs' && { momentaryLufs: all.momentaryLufs }),
    });
  }
});
