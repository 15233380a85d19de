import { interpolate, predictor, residual } from '@/core/dsp/autoregression';
import { ClickJudge } from '@/core/dsp/clickJudge';
import { findClicks, mendClicks, type Click } from '@/core/dsp/declick';
import { collectChannels } from '@/core/pcm/pcm';
import { sourceFromChannels, streamOf } from '@/core/pcm/source';
import { noise, sine } from './signals';

/** How clicks are found and mended, part by part; `declick.test.ts` hears whole sounds. */

/** Noise through a resonance: what linear prediction is made for. */
function coloured(frames: number, seed: number): Float64Array {
  const source = noise(frames, seed);
  const out = new Float64Array(frames);
  for (let i = 0; i < frames; i++) {
    out[i] = source[i]! + 1.6 * (out[i - 1] ?? 0) - 0.9 * (out[i - 2] ?? 0);
  }
  return out;
}

const energy = (x: ArrayLike<number>) =>
  Array.from(x).reduce((sum, value) => sum + value * value, 0);

describe('linear prediction', () => {
  test.each([1, 2, 3, 4, 5, 7, 24])('of order %i solves the normal equations', (order) => {
    const signal = coloured(400, order);
    const a = predictor(signal, order);
    const r = (lag: number) => {
      let sum = 0;
      for (let i = Math.abs(lag); i < signal.length; i++)
        sum += signal[i]! * signal[i - Math.abs(lag)]!;
      return sum;
    };
    for (let i = 1; i <= order; i++) {
      const found = a.reduce((sum, weight, k) => sum + weight * r(i - 1 - k), 0);
      expect(Math.abs(found - r(i)) / r(0)).toBeLessThan(1e-6);
    }
  });

  test('finds the resonance that made a sound, and foresees all but what drove it', () => {
    const signal = coloured(20_000, 1);
    const a = predictor(signal, 2);
    expect(a[0]).toBeCloseTo(1.6, 1);
    expect(a[1]).toBeCloseTo(-0.9, 1);
    expect(energy(residual(signal, a)) / energy(noise(20_000, 1))).toBeCloseTo(1, 1);
  });

  test('silence is foreseen, and so is what is too short to learn from', () => {
    expect(predictor(new Float64Array(100), 8)).toEqual(new Float64Array(8));
    for (const length of [0, 1, 2, 5]) {
      expect([...predictor(coloured(length, 2), 8)].every(Number.isFinite)).toBe(true);
    }
  });

  test.each([1, 3, 4, 6, 24])('what order %i leaves, sample by sample', (order) => {
    const signal = coloured(80, 3);
    const a = Float64Array.from({ length: order }, (_, k) => Math.cos(k) / (k + 1));
    const left = residual(signal, a);
    left.forEach((x, i) => {
      const foreseen = a.reduce((sum, weight, k) => sum + weight * (signal[i - 1 - k] ?? 0), 0);
      expect(x).toBeCloseTo(i < order ? 0 : signal[i]! - foreseen, 9);
    });
  });

  test.each([
    [1, 24],
    [7, 8],
    [40, 24],
  ])('a gap of %i is filled with what leaves the least unforeseen (order %i)', (count, order) => {
    const signal = coloured(600, 4);
    const a = predictor(signal, order);
    const filled = signal.slice();
    filled.fill(9, 300, 300 + count);
    interpolate(filled, a, 300, count);
    const around = (x: Float64Array) => energy(residual(x, a).subarray(300, 300 + count + order));
    const least = around(filled);
    expect(least).toBeLessThanOrEqual(around(signal));
    for (let i = 0; i < count; i++) {
      for (const by of [-0.01, 0.01]) {
        const other = filled.slice();
        other[300 + i]! += by;
        expect(around(other)).toBeGreaterThan(least);
      }
    }
    filled.forEach((x, i) => (i < 300 || i >= 300 + count) && expect(x).toBe(signal[i]));
  });

  test('a tone is filled in as if nothing had been missing, at the very beginning too', () => {
    for (const start of [0, 3, 200]) {
      const tone = Float64Array.from({ length: 500 }, (_, i) => Math.sin(i * 0.3));
      const a = Float64Array.of(2 * Math.cos(0.3), -1);
      const hurt = tone.slice().fill(0, start, start + 5);
      interpolate(hurt, a, start, 5);
      if (start > 0) hurt.forEach((x, i) => expect(x).toBeCloseTo(tone[i]!, 6));
      else expect(hurt.every(Number.isFinite)).toBe(true);
    }
  });
});

describe('the judge', () => {
  /** At 20 kHz a wave may repeat up to 1,000 frames apart, and five of its like are too many within them. */
  function judged(...list: [frame: number, peak: number, isCandidate?: boolean][]): number[] {
    const found: number[] = [];
    const judge = new ClickJudge(20_000, ({ startFrame, samples }) => {
      expect(samples).toEqual(Float32Array.of(startFrame));
      found.push(startFrame);
    });
    for (const [frame, peak, isCandidate = true] of list) {
      if (isCandidate) judge.candidate(frame, Float32Array.of(frame), peak);
      else judge.sudden(frame, peak);
    }
    judge.finish();
    return found;
  }

  test('what stands alone is a click, once', () => {
    expect(judged([5_000, 1])).toEqual([5_000]);
    expect(judged([5_000, 1, false])).toEqual([]);
    expect(judged([5_000, 1], [7_100, 1], [10_000, 1])).toEqual([5_000, 7_100, 10_000]);
  });

  test('three at equal distances of no more than a twentieth of a second are a wave', () => {
    expect(judged([5_000, 1], [6_000, 1], [7_000, 1])).toEqual([]);
    expect(judged([5_000, 1], [6_001, 1], [7_002, 1])).toEqual([5_000, 6_001, 7_002]);
    // The distances agree within two per cent.
    expect(judged([5_000, 1], [5_900, 1], [6_818, 1])).toEqual([]);
    expect(judged([5_000, 1], [5_900, 1], [6_840, 1])).toEqual([5_000, 5_900, 6_840]);
    // Of like size: up to 1.6 times.
    expect(judged([5_000, 1], [6_000, 1.5], [7_000, 1])).toEqual([]);
    expect(judged([5_000, 1], [6_000, 1.7], [7_000, 1])).toEqual([5_000, 6_000, 7_000]);
    // What cannot be a click repeats as well.
    expect(judged([5_000, 1, false], [6_000, 1], [7_000, 1, false])).toEqual([]);
  });

  test('of many alike within a twentieth of a second none is a click', () => {
    const five = [-900, -500, 480, 850, 990].map((by): [number, number] => [6_000 + by, 1]);
    const inOrder = (...list: [number, number, boolean?][]) =>
      judged(...list.sort((a, b) => a[0] - b[0]));
    expect(inOrder(...five, [6_000, 1])).toContain(6_000);
    expect(inOrder(...five, [5_350, 1], [6_000, 1])).not.toContain(6_000);
    // Smaller ones are none of its like, larger ones are.
    expect(inOrder(...five, [5_350, 0.4], [6_000, 1])).toContain(6_000);
    expect(inOrder(...five, [5_350, 0.41], [6_000, 1])).not.toContain(6_000);
    expect(inOrder(...five, [5_350, 0.6, false], [6_000, 1])).toContain(6_000);
    expect(inOrder(...five, [5_350, 0.61, false], [6_000, 1])).not.toContain(6_000);
    expect(inOrder(...five, [5_350, 50], [6_000, 1])).not.toContain(6_000);
  });

  test('two alike very near are two too many, one is not', () => {
    expect(judged([5_000, 1], [5_166, 1])).toEqual([5_000, 5_166]);
    expect(judged([4_860, 1], [5_000, 1], [5_166, 1])).not.toContain(5_000);
    expect(judged([4_830, 1], [5_000, 1], [5_166, 1])).toContain(5_000);
  });

  test('a long sound is judged as it comes, and as at its end', () => {
    const places = Array.from({ length: 4_000 }, (_, i) => i * 2_500 + ((i * 37) % 90));
    expect(judged(...places.map((at): [number, number] => [at, 1]))).toEqual(places);
    const early: number[] = [];
    const judge = new ClickJudge(20_000, ({ startFrame }) => early.push(startFrame));
    judge.candidate(100, new Float32Array(1), 1);
    judge.sudden(2_100, 1);
    expect(early).toEqual([]);
    judge.sudden(2_101, 1);
    expect(early).toEqual([100]);
  });
});

describe('finding', () => {
  const RATE = 44_100;
  const found = async (channels: Float32Array[], threshold = 10, blockFrames = 5_000) =>
    findClicks(streamOf(sourceFromChannels(channels, RATE, { blockFrames })), { threshold });

  const beds: Record<string, (frames: number) => Float32Array> = {
    silence: (frames) => new Float32Array(frames),
    'a tone': (frames) => sine(RATE, 330, frames, 0.4),
    'coloured noise': (frames) => Float32Array.from(coloured(frames, 7), (x) => x * 0.02),
  };
  const shapes: Record<string, number[]> = {
    'one sample': [0.5],
    'three samples': [-0.5, 0.35, -0.2],
    'six samples': [0.5, -0.45, 0.4, -0.3, 0.2, -0.15],
  };
  // Near both ends, on and around the edges of what is looked at together, and anywhere.
  const places = [600, 2_047, 4_600, 8_191, 11_000, 14_500];
  const FRAMES = 16_000;

  describe.each(Object.keys(beds))('in %s', (bed) => {
    test.each(Object.keys(shapes))('%s, to the frame, and nothing else', async (shape) => {
      const own = beds[bed]!(FRAMES);
      const hurt = own.slice();
      for (const at of places) shapes[shape]!.forEach((x, i) => (hurt[at + i]! += x));
      const clicks = await found([hurt]);
      expect(clicks.map(({ startFrame }) => startFrame)).toEqual(places);
      for (const { channel, startFrame, samples } of clicks) {
        expect(channel).toBe(0);
        expect(samples.length).toBeGreaterThanOrEqual(shapes[shape]!.length);
        const click = energy(shapes[shape]!);
        expect(energy(samples.map((x, i) => x - own[startFrame + i]!))).toBeLessThan(0.02 * click);
      }
    });
  });

  test('however the sound comes', async () => {
    const hurt = beds['a tone']!(FRAMES);
    for (const at of places) hurt[at]! += 0.3;
    const whole = await found([hurt]);
    expect(whole.length).toBe(places.length);
    for (const blockFrames of [777, 16_000]) {
      expect(await found([hurt], 10, blockFrames)).toEqual(whole);
    }
  });

  test('more with a lower threshold, fewer with a higher one', async () => {
    const bed = beds['coloured noise']!(FRAMES);
    const count = async (size: number, threshold: number) => {
      const hurt = bed.slice();
      for (const at of places) hurt[at]! += size;
      return (await found([hurt], threshold)).length;
    };
    const counts = await Promise.all([5, 10, 20].map((threshold) => count(0.08, threshold)));
    expect(counts).toEqual([6, 6, 0]);
    expect([await count(0.05, 5), await count(0.05, 10)]).toEqual([5, 0]);
    expect([await count(0.15, 20), await count(0.15, 100)]).toEqual([6, 0]);
  });

  test('what could not be heard is none', async () => {
    const quiet = new Float32Array(FRAMES);
    quiet[8_000] = 0.0019;
    expect(await found([quiet])).toEqual([]);
    quiet[8_000] = 0.003;
    expect((await found([quiet])).map(({ startFrame }) => startFrame)).toEqual([8_000]);
  });

  test('what begins, ends, stays or lasts is the sound', async () => {
    const of = (make: (i: number) => number) =>
      Float32Array.from({ length: FRAMES }, (_, i) => make(i));
    const sounds = {
      'a beginning at full': of((i) => (i < 8_000 ? 0 : 0.6 * Math.cos((i - 8_000) * 0.02))),
      'an end at full': of((i) => (i > 8_000 ? 0 : 0.6 * Math.cos((i - 8_000) * 0.02))),
      'a step': of((i) => (i < 8_000 ? 0.3 : -0.3)),
      'a rectangle of 60 frames': of((i) => (i >= 8_000 && i < 8_060 ? 0.5 : 0)),
      'its first frame': of((i) => (i === 0 ? 0.8 : 0)),
      'a soft bump': of((i) => 0.5 * Math.exp(-(((i - 8_000) / 12) ** 2))),
      'bursts all over': of((i) => (i % 97 === 0 || i % 61 === 0 ? 0.5 : 0)),
    };
    for (const [name, sound] of Object.entries(sounds)) {
      expect([name, await found([sound])]).toEqual([name, []]);
    }
  });

  test('each channel by itself, in order of time', async () => {
    const [left, right] = [new Float32Array(FRAMES), new Float32Array(FRAMES)];
    left[4_000] = 0.5;
    right[9_000] = 0.5;
    left[13_000] = 0.5;
    const clicks = await found([left, right]);
    expect(clicks.map(({ channel, startFrame }) => [channel, startFrame])).toEqual([
      [0, 4_000],
      [1, 9_000],
      [0, 13_000],
    ]);
  });
});

describe('mending', () => {
  const sound = [noise(5_000, 1), noise(5_000, 2)];
  const clicks: Click[] = [
    { channel: 0, startFrame: 998, samples: Float32Array.of(0.1, 0.2, 0.3, 0.4) },
    { channel: 1, startFrame: 1_000, samples: new Float32Array(40).fill(0.7) },
    { channel: 0, startFrame: 4_998, samples: Float32Array.of(0.5, 0.6) },
  ];
  const wanted = sound.map((channel) => channel.slice());
  for (const { channel, startFrame, samples } of clicks) wanted[channel]!.set(samples, startFrame);

  test('puts in what belongs there, across blocks and from any frame on', async () => {
    for (const blockFrames of [1_000, 999, 33, 5_000]) {
      const source = sourceFromChannels(sound, 8_000, { blockFrames, gridBits: 16 });
      const mended = mendClicks(source, clicks);
      expect(mended.gridBits).toBeNull();
      for (const start of [0, 999, 1_001, 1_039, 1_040, 4_999]) {
        const found = await collectChannels(streamOf(mended, start));
        expect([blockFrames, start, found]).toEqual([
          blockFrames,
          start,
          wanted.map((channel) => channel.slice(start)),
        ]);
      }
    }
    expect(sound).toEqual([noise(5_000, 1), noise(5_000, 2)]);
  });

  test('nothing to mend leaves the sound as it is', () => {
    const source = sourceFromChannels(sound, 8_000, { gridBits: 16 });
    expect(mendClicks(source, [])).toBe(source);
  });
});
