import fc from 'fast-check';
import { Analyser, type Measures } from '@/core/measure/analyser';
import { powerToDb, toDb } from '@/core/measure/decibels';
import { measureLevels } from '@/core/measure/levels';
import { thumbnailColumns, ThumbnailBuilder } from '@/core/measure/thumbnail';
import { sourceFromChannels, streamOf } from '@/core/pcm/source';
import { noise, sine } from './signals';

/** Every meter against its definition, written down as plainly as can be; however the sound is cut. */

const RATE = 8_000;

interface Shape {
  rateHz?: number;
  bitDepth?: number | null;
  blockFrames?: number;
  speakerMask?: number;
}

function measure(channels: Float32Array[], shape: Shape = {}): Measures {
  const { rateHz = RATE, bitDepth = 24, blockFrames = 1_000, speakerMask } = shape;
  const meter = new Analyser({ rateHz, channelCount: channels.length, bitDepth, speakerMask });
  for (let at = 0; at < channels[0]!.length; at += blockFrames) {
    meter.push(channels.map((channel) => channel.subarray(at, at + blockFrames)));
  }
  expect(meter.frames).toBe(channels[0]!.length);
  return meter.result();
}

/** Samples of which many are the same, at full scale, or nothing. */
const sample = fc.oneof(
  fc.constantFrom(0, 0.5, -0.5, 1, -1, 127 / 128, -127 / 128, 32_767 / 32_768, 1.5),
  fc.constantFrom(0.001, -0.001, 0.0009, -0.0009, 0.0011, 0.25, 1 / 32_768),
  fc.double({ min: -1, max: 1, noNaN: true }),
);
const channels = fc
  .tuple(fc.integer({ min: 1, max: 3 }), fc.array(sample, { minLength: 3 }))
  .map(([count, samples]): Float32Array[] =>
    // The channels lie a little apart, so that none stands for another.
    Array.from({ length: count }, (_, c) =>
      Float32Array.from([...samples.slice(c), ...samples.slice(0, c)]),
    ),
  );
const blockFrames = fc.integer({ min: 1, max: 7 });

function holds(check: (sound: Float32Array[], measured: Measures) => void, bitDepth = 24): void {
  fc.assert(
    fc.property(channels, blockFrames, (sound, block) => {
      check(sound, measure(sound, { blockFrames: block, bitDepth }));
    }),
    { numRuns: 300 },
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

test.each([
  [8, 127 / 128],
  [16, 32_766.5 / 32_768],
])('clipped runs: three at least behind each other on one side, in %i bits', (bitDepth, limit) => {
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

describe('true peak', () => {
  /** At a quarter of the rate, where every sample misses the top by 3 dB; it comes and goes softly. */
  const between = (frames: number) =>
    Float32Array.from(
      { length: frames },
      (_, i) => Math.sin(Math.PI * (i / 2 + 1 / 4)) * Math.sin((Math.PI * i) / frames) ** 2,
    );
  test.each([
    [8_000, 0],
    [48_000, 0],
    [87_999, 0],
    [88_000, 0],
    [96_000, 0],
    [175_999, 0],
    // From here on the samples themselves are dense enough.
    [176_000, -3.01],
    [192_000, -3.01],
  ])('at %i Hz', (rateHz, db) => {
    for (const blockFrames of [50, 8_192]) {
      const { truePeakDbtp } = measure([new Float32Array(4_096), between(4_096)], {
        rateHz,
        blockFrames,
      });
      expect(truePeakDbtp).toBeCloseTo(db, 1);
    }
  });

  test('a quarter of the way between samples is found at four times, not at two', () => {
    const sound = Float32Array.from(
      { length: 4_000 },
      (_, i) => Math.cos((2 * Math.PI * (i - 0.25)) / 4) * Math.sin((Math.PI * i) / 4_000) ** 2,
    );
    expect(measure([sound], { rateHz: 48_000 }).truePeakDbtp).toBeCloseTo(0, 1);
    const coarse = measure([sound], { rateHz: 96_000 }).truePeakDbtp!;
    expect(coarse).toBeCloseTo(20 * Math.log10(Math.cos(Math.PI / 8)), 1);
  });

  test('the end meets silence, the beginning does too', () => {
    const sound = Float32Array.of(0.5, -0.5, 0.5, -0.5, 0.5, -0.5, 0.5, -0.5);
    const alone = measure([sound], { rateHz: 48_000 }).truePeakDbtp!;
    const padded = new Float32Array(100);
    padded.set(sound, 40);
    expect(measure([padded], { rateHz: 48_000 }).truePeakDbtp).toBeCloseTo(alone, 6);
    expect(alone).toBeGreaterThan(toDb(0.5)! + 0.3);
    expect(measure([Float32Array.of(0.5)], { rateHz: 48_000 }).truePeakDbtp).toBeCloseTo(
      toDb(0.5)!,
      6,
    );
  });
});

describe('loudness', () => {
  /** Both filters, the blocks and the gates as ITU-R BS.1770 writes them, at 48 kHz. */
  function plainLoudness(sound: Float32Array[], weights: number[]) {
    const filtered = sound.map((channel) => {
      const shelf = biquad(
        channel,
        [1.53512485958697, -2.69169618940638, 1.19839281085285],
        [-1.69065929318241, 0.73248077421585],
      );
      return biquad(shelf, [1, -2, 1], [-1.99004745483398, 0.99007225036621]);
    });
    const blocks = (seconds: number) => {
      const length = seconds * 48_000;
      const powers: number[] = [];
      for (let at = 0; at + length <= sound[0]!.length; at += 4_800) {
        let power = 0;
        filtered.forEach((channel, c) => {
          for (let i = at; i < at + length; i++) power += (weights[c]! * channel[i]! ** 2) / length;
        });
        powers.push(power);
      }
      return powers;
    };
    const mean = (list: number[]) => list.reduce((sum, x) => sum + x, 0) / list.length;
    const lkfs = (power: number) => -0.691 + 10 * Math.log10(power);
    const momentary = blocks(0.4).filter((power) => lkfs(power) > -70);
    const relative = lkfs(mean(momentary)) - 10;
    const lufs = momentary.length
      ? lkfs(mean(momentary.filter((power) => lkfs(power) > relative)))
      : null;
    const shortTerm = blocks(3).filter((power) => lkfs(power) >= -70);
    const low = lkfs(mean(shortTerm)) - 20;
    const kept = shortTerm.filter((power) => lkfs(power) >= low).sort((a, b) => a - b);
    const at = (share: number) => lkfs(kept[Math.round((kept.length - 1) * share)]!);
    return { lufs, range: kept.length ? at(0.95) - at(0.1) : null };
  }

  function biquad(x: ArrayLike<number>, b: number[], a: number[]): Float64Array {
    const y = new Float64Array(x.length);
    for (let i = 0; i < x.length; i++) {
      y[i] =
        b[0]! * x[i]! +
        b[1]! * (x[i - 1] ?? 0) +
        b[2]! * (x[i - 2] ?? 0) -
        a[0]! * (y[i - 1] ?? 0) -
        a[1]! * (y[i - 2] ?? 0);
    }
    return y;
  }

  /** Noise whose level jumps every third of a second or so, with long quiet in between. */
  function moody(seconds: number, seed: number): Float32Array {
    const level = noise(seconds * 3, seed + 100);
    return noise(seconds * 48_000, seed).map(
      (x, i) => x * 10 ** ((level[Math.floor(i / 16_000)]! - 0.5) * 2.5),
    );
  }

  test('of speakers, each with its weight', () => {
    const sound = [1, 2, 3, 4, 5, 6].map((seed) => moody(6, seed));
    const is51 = [1, 1, 1, 0, 1.41, 1.41];
    for (const [count, weights] of [
      [1, [1]],
      [2, [1, 1]],
      [6, is51],
    ] as const) {
      const part = sound.slice(0, count);
      const wanted = plainLoudness(part, [...weights]);
      const { lufs, loudnessRangeLu } = measure(part, { rateHz: 48_000, blockFrames: 10_007 });
      expect(lufs).toBeCloseTo(wanted.lufs!, 3);
      expect(loudnessRangeLu).toBeCloseTo(wanted.range!, 3);
    }
    // Left, right, back left, back right.
    const quad = measure(sound.slice(0, 4), { rateHz: 48_000, speakerMask: 0x33 });
    expect(quad.lufs).toBeCloseTo(plainLoudness(sound.slice(0, 4), [1, 1, 1.41, 1.41]).lufs!, 3);
  });

  test('begins at 0.4 s, its range at 3 s, whatever rate these are no whole tenths of', () => {
    for (const rateHz of [48_000, 11_025, 22_055]) {
      const lasts = (frames: number) => measure([sine(rateHz, 1_000, frames)], { rateHz });
      const [least, range] = [Math.round(0.4 * rateHz), 3 * rateHz];
      expect([rateHz, lasts(least - 1).lufs]).toEqual([rateHz, null]);
      expect(lasts(least).lufs).toBeCloseTo(-9.1, 0);
      expect([rateHz, lasts(range - 1).loudnessRangeLu]).toEqual([rateHz, null]);
      expect(lasts(range).loudnessRangeLu).toBeCloseTo(0, 2);
    }
  });
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
    const none = { peakDbfs: null, truePeakDbtp: null, lufs: null };
    expect(await measureLevels(stream(), [name])).toEqual({ ...none, [name]: all[name] });
  }
});

test('a thumbnail: between 60 and 120 columns of equal length, each with its extremes', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 2_000 }),
      fc.integer({ min: 1, max: 300 }),
      fc.integer({ min: 1, max: 3 }),
      (frames, block, count) => {
        const sound = Array.from({ length: count }, (_, c) => noise(frames, c + 5, 1.3));
        const builder = new ThumbnailBuilder();
        for (let at = 0; at < frames; at += block) {
          builder.push(sound.map((channel) => channel.subarray(at, at + block)));
        }
        let length = 1;
        while (Math.ceil(frames / length) > 120) length *= 2;
        const wanted: number[] = [];
        for (let at = 0; at < frames; at += length) {
          const all = sound.flatMap((channel) => [...channel.subarray(at, at + length)]);
          const rms = Math.sqrt(all.reduce((sum, x) => sum + x * x, 0) / all.length);
          wanted.push(Math.min(...all), Math.max(...all), rms);
        }
        const clamped = wanted.map((x) => Math.max(-1, Math.min(1, x)));
        const found = thumbnailColumns(builder.finish());
        expect(found.length).toBe(wanted.length);
        found.forEach((x, i) => expect(Math.abs(x - clamped[i]!)).toBeLessThan(0.51 / 127));
      },
    ),
    { numRuns: 60 },
  );
});
