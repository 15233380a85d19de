import { findClicks } from '@/core/dsp/declick';
import { sourceFromChannels, streamOf } from '@/core/pcm/source';
import { noise, sine } from './signals';

/** The bounds of what counts as a click: how loud, how long, how alone, and how it lies in what is around it. */

const RATE = 44_100;
const FRAMES = 16_000;
const AT = 9_000;

const found = async (sound: Float32Array, { threshold = 10, rateHz = RATE } = {}) =>
  findClicks(streamOf(sourceFromChannels([sound], rateHz)), { threshold });
const startsIn = async (...asked: Parameters<typeof found>) =>
  (await found(...asked)).map(({ startFrame }) => startFrame);
const withAdded = (bed: Float32Array, at: number, added: readonly number[]) => {
  const out = bed.slice();
  added.forEach((x, i) => (out[at + i]! += x));
  return out;
};
/** Loud and unforeseeable, and not quiet anywhere. */
const rattle = (frames: number, size = 0.5) =>
  Array.from(noise(frames, 77), (x) => size * (Math.sign(x) * 0.7 + 0.3 * x));

const tone = sine(RATE, 330, FRAMES, 0.2);
const median = (values: ArrayLike<number>) =>
  Array.from(values, Math.abs).sort((a, b) => a - b)[values.length >> 1]!;

describe('how loud', () => {
  test.each([12, 20, 40])(
    'the threshold counts from what is usual: %i times',
    async (threshold) => {
      const bed = noise(FRAMES, 5, 0.02);
      const usual = median(bed) / 0.6745;
      const click = (size: number) => {
        const out = bed.slice();
        out[AT] = size * threshold * usual;
        return out;
      };
      expect(await startsIn(click(0.9), { threshold })).toEqual([]);
      expect(await startsIn(click(1.15), { threshold })).toEqual([AT]);
    },
  );

  // Where the threshold is low, what goes on within eight thousandths of a second counts.
  test.each([
    [8_000, 64],
    [22_050, 176],
    [48_000, 384],
    [96_000, 512],
    [192_000, 512],
  ])('at %i Hz two and a half times as loud as %i frames around it', async (rateHz, around) => {
    const bed = noise(FRAMES, 5, 0.05);
    const quietFor = (frames: number) => bed.slice().fill(0, AT - frames, AT + 1 + frames);
    const click = async (sound: Float32Array, size: number) => {
      sound[AT] = size;
      const starts = await startsIn(sound, { threshold: 3, rateHz });
      return starts.includes(AT);
    };
    expect(await click(bed.slice(), 0.118)).toBe(false);
    expect(await click(bed.slice(), 0.135)).toBe(true);
    expect(await click(quietFor(around - 20), 0.118)).toBe(false);
    expect(await click(quietFor(around + 40), 0.118)).toBe(true);
  });
});

describe('how long', () => {
  // What belongs there hardly moves while the longest click lasts.
  const slow = sine(RATE, 60, FRAMES, 0.2);
  const tried = [1, 2, 3, 4, 6, 8, 11, 15, 20, 28, 40];

  test.each(tried)('%i frames are replaced by so many, by what belongs there', async (frames) => {
    const sound = withAdded(slow, AT, rattle(frames));
    const clicks = await found(sound);
    expect(clicks.map(({ startFrame, samples }) => [startFrame, samples.length])).toEqual([
      [AT, frames],
    ]);
    const most = slow
      .subarray(AT - 48, AT + frames + 48)
      .reduce((a, b) => Math.max(a, Math.abs(b)));
    clicks[0]!.samples.forEach((x, i) => {
      expect(Math.abs(x - slow[AT + i]!)).toBeLessThan(0.02);
      expect(Math.abs(x)).toBeLessThanOrEqual(most + 1e-6);
    });
  });

  test.each([5, 7, 10, 14, 19, 26, 37])('%i frames by the next length', async (frames) => {
    const [click] = await found(withAdded(slow, AT, rattle(frames)));
    expect(click).toMatchObject({ startFrame: AT });
    expect(click!.samples).toHaveLength(tried.find((length) => length >= frames)!);
  });

  test('what is longer than forty frames is sound', async () => {
    for (const frames of [70, 120]) {
      expect(await startsIn(withAdded(slow, AT, rattle(frames)))).toEqual([]);
    }
  });

  test('what is mended is no second click, what follows is', async () => {
    const long = withAdded(slow, AT, rattle(28));
    expect(await startsIn(long)).toEqual([AT]);
    expect(await startsIn(withAdded(long, AT + 400, [0.5]))).toEqual([AT, AT + 400]);
  });
});

describe('how it lies', () => {
  const step = (size: number) => {
    const sound = new Float32Array(FRAMES);
    for (let i = AT; i < FRAMES; i++) sound[i] = 0.05 * Math.SQRT2 * Math.sin((i - AT) * 0.05);
    return withAdded(sound, AT - 1, [size]);
  };

  test('a beginning is none, unless it is many times as loud as what begins', async () => {
    expect(await startsIn(step(0.1))).toEqual([]);
    expect(await startsIn(step(0.2))).toEqual([]);
    expect(await startsIn(step(0.3))).toEqual([AT - 1]);
  });

  test('the same at an end', async () => {
    const turned = async (size: number) =>
      startsIn(step(size).reverse()).then((all) => all.map((at) => FRAMES - 1 - at));
    expect(await turned(0.2)).toEqual([]);
    expect(await turned(0.4)).toEqual([AT - 1]);
  });

  test('so many sudden places that the stretch is sudden throughout have no click among them', async () => {
    const bursts = (every: number) => {
      const sound = noise(FRAMES, 8, 0.02);
      // At uneven distances and of uneven size: not a wave.
      for (let i = 0, at = 1_500; at < 10_000; i++, at += every + ((i * 13) % 17)) {
        sound[at]! += 0.8 / 1.5 ** (i % 4);
      }
      return withAdded(sound, 6_003, [3]);
    };
    expect(await startsIn(bursts(27))).toEqual([]);
    expect(await startsIn(bursts(700))).toContain(6_003);
  });

  test("the first frames are the sound's own beginning", async () => {
    for (const [at, expected] of [
      [5, []],
      [23, []],
      [60, [60]],
    ] as const) {
      expect(await startsIn(withAdded(tone, at, [0.5]))).toEqual(expected);
    }
  });
});
