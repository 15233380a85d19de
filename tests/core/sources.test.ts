import fc from 'fast-check';
import {
  isMixable,
  keepMatrix,
  mixChannels,
  monoMatrix,
  stereoMatrix,
  swapMatrix,
} from '@/core/dsp/channels';
import { fadeIn, fadeInGain, fadeOut, fadeOutGain, type FadeShape } from '@/core/dsp/fade';
import { changed, gain, invertPolarity } from '@/core/dsp/level';
import { reverse } from '@/core/dsp/reverse';
import { changeSpeed, relabel, spedFrames } from '@/core/dsp/speed';
import { blank, cutOut, insertSilence, trim } from '@/core/dsp/splice';
import { collectChannels } from '@/core/pcm/pcm';
import { sourceFromChannels, streamOf, type PcmSource } from '@/core/pcm/source';
import { gridNoise, noise, sine } from './signals';

/** Every simple change of a sound against the same on whole arrays: from any frame on, in any blocks, to the bit. */

interface Case {
  frames: number;
  /** Two places in the sound, in order. */
  from: number;
  to: number;
  startFrame: number;
  blockFrames: number;
}

const cases = fc
  .record({
    frames: fc.integer({ min: 1, max: 200 }),
    places: fc.tuple(fc.nat(1_000), fc.nat(1_000)),
    start: fc.nat(1_000),
    blockFrames: fc.integer({ min: 1, max: 90 }),
  })
  .map(({ frames, places, start, blockFrames }): Case => {
    const [from, to] = places.map((at) => Math.round((at * frames) / 1_000)).sort((a, b) => a - b);
    return { frames, from: from!, to: to!, startFrame: start, blockFrames };
  });

/** Holds `change` against `plain`, which works on one whole channel. */
async function holds(
  change: (source: PcmSource, one: Case) => PcmSource,
  plain: (samples: number[], one: Case, channel: number) => number[],
  keepsGrid: boolean | ((one: Case) => boolean),
): Promise<void> {
  await fc.assert(
    fc.asyncProperty(cases, async (one) => {
      const channels = [gridNoise(one.frames, 16, 3), gridNoise(one.frames, 16, 4)];
      const { blockFrames } = one;
      const source = sourceFromChannels(channels, 8_000, { blockFrames, gridBits: 16 });
      const result = change(source, one);
      const wanted = channels.map((channel, c) => Float32Array.from(plain([...channel], one, c)));
      expect(result.frames).toBe(wanted[0]!.length);
      const start = Math.round((one.startFrame * result.frames) / 1_000);
      const found = await collectChannels(streamOf(result, start));
      const rest = wanted.map((channel) => channel.subarray(start));
      // Compared as bytes: −0 is another number than 0.
      expect(found.map(bytesOf)).toEqual(rest.map(bytesOf));
      const isKept = typeof keepsGrid === 'function' ? keepsGrid(one) : keepsGrid;
      expect(result.gridBits).toBe(isKept ? 16 : null);
      // What came in is as it was.
      expect(channels).toEqual([gridNoise(one.frames, 16, 3), gridNoise(one.frames, 16, 4)]);
    }),
    { numRuns: 150 },
  );
}

const bytesOf = (samples: Float32Array) => Buffer.from(samples.slice().buffer).toString('hex');

const shapes: FadeShape[] = ['linear', 'equal-power', 'exponential', 's'];

test.each(shapes)('a fade in, %s', async (shape) => {
  await holds(
    (source, { to }) => fadeIn(source, to, shape),
    (x, { to }) => x.map((y, i) => (i < to ? y * fadeInGain(i, to, shape) + 0 : y)),
    false,
  );
});

test.each(shapes)('a fade out, %s', async (shape) => {
  await holds(
    (source, { to }) => fadeOut(source, to, shape),
    (x, { frames, to }) =>
      x.map((y, i) => (i >= frames - to ? y * fadeOutGain(i, frames, to, shape) + 0 : y)),
    false,
  );
});

test('gain', async () => {
  await holds(
    (source) => gain(source, -6.5),
    (x) => x.map((y) => y * 10 ** (-6.5 / 20)),
    false,
  );
  const source = sourceFromChannels([noise(9)], 8_000, { gridBits: 16 });
  expect(gain(source, 0)).toBe(source);
});

test('polarity', async () => {
  await holds(invertPolarity, (x) => x.map((y) => -y), true);
});

test('backwards', async () => {
  await holds(reverse, (x) => x.reverse(), true);
  // Longer than one block.
  const long = noise(150_000, 8);
  const turned = await collectChannels(streamOf(reverse(sourceFromChannels([long], 8_000)), 777));
  expect(turned).toEqual([long.slice().reverse().subarray(777)]);
});

test('a part kept, cut out, silenced, silence put in', async () => {
  await holds(
    (source, { from, to }) => trim(source, from, to),
    (x, { from, to }) => x.slice(from, to),
    true,
  );
  await holds(
    (source, { from, to }) => cutOut(source, from, to),
    (x, { from, to }) => [...x.slice(0, from), ...x.slice(to)],
    true,
  );
  await holds(
    (source, { from, to }) => blank(source, from, to),
    (x, { from, to }) => x.map((y, i) => (i >= from && i < to ? 0 : y)),
    true,
  );
  await holds(
    (source, { from, to }) => insertSilence(source, from, to),
    (x, { from, to }) => [...x.slice(0, from), ...new Array<number>(to).fill(0), ...x.slice(from)],
    true,
  );
});

test('a cut that is faded over', async () => {
  const over = ({ from, to }: Case) => Math.min(30, from, to - from);
  await holds(
    (source, { from, to }) => cutOut(source, from, to, 30),
    (x, one) => {
      const frames = over(one);
      const { from, to } = one;
      const seam = Array.from({ length: frames }, (_, i) => {
        const share = (i + 0.5) / frames;
        return x[from - frames + i]! * (1 - share) + x[to - frames + i]! * share;
      });
      return [...x.slice(0, from - frames), ...seam, ...x.slice(to)];
    },
    (one) => over(one) === 0,
  );
});

test('what lies outside of a change is passed on, not copied', async () => {
  const source = sourceFromChannels([noise(300)], 8_000, { blockFrames: 100 });
  const touched: [number, number, number][] = [];
  const result = changed(source, { start: 100, end: 150 }, (samples, channel, first) => {
    touched.push([samples.length, channel, first]);
  });
  const [before, after] = await Promise.all(
    [source, result].map(async (one) => {
      const blocks: Float32Array[] = [];
      for await (const [channel] of one.from(0)) blocks.push(channel!);
      return blocks;
    }),
  );
  expect(touched).toEqual([[50, 0, 100]]);
  expect(after!.map((block, i) => block.buffer === before![i]!.buffer)).toEqual([
    true,
    false,
    true,
  ]);
});

describe('channels', () => {
  const source = (count: number, gridBits = 16) =>
    sourceFromChannels(
      Array.from({ length: count }, (_, c) => gridNoise(50, 16, c + 1)),
      8_000,
      { blockFrames: 17, gridBits },
    );
  const rows = (count: number) =>
    Array.from({ length: count }, (_, c) => [...gridNoise(50, 16, c + 1)]);

  test('are mixed row by row, and passed on where a row only copies', async () => {
    const matrix = [
      [0.5, 0.25, 0],
      [0, 1, 0],
      [0, 0.5, 0],
      [0, 0, 0],
      [1, 0, 1],
    ];
    const mix = mixChannels({ ...source(3), speakerMask: 7 }, matrix);
    expect([mix.channelCount, mix.gridBits, mix.speakerMask]).toEqual([5, null, undefined]);
    const found = await collectChannels(streamOf(mix, 5));
    matrix.forEach((gains, row) => {
      const wanted = rows(3)[0]!.map((_, i) =>
        gains.reduce((sum, g, c) => sum + g * rows(3)[c]![i]!, 0),
      );
      expect(found[row]!.length).toBe(45);
      found[row]!.forEach((x, i) => expect(x).toBeCloseTo(wanted[i + 5]!, 6));
    });
    const swapped = mixChannels(source(2), swapMatrix(2));
    expect([swapped.gridBits, await collectChannels(streamOf(swapped))]).toEqual([
      16,
      rows(2)
        .reverse()
        .map((row) => Float32Array.from(row)),
    ]);
  });

  test('one is kept by its place', () => {
    expect(keepMatrix(3, 0)).toEqual([[1, 0, 0]]);
    expect(keepMatrix(3, 2)).toEqual([[0, 0, 1]]);
    for (const channel of [-1, 3]) {
      expect(() => keepMatrix(3, channel)).toThrow(`no channel ${channel + 1}; it has 3`);
    }
    expect(() => swapMatrix(1)).toThrow(/stereo/);
    expect(() => swapMatrix(3)).toThrow(/stereo/);
  });

  /** Rows for the usual layouts, before they are scaled so that they cannot clip. */
  const half = Math.SQRT1_2;
  const downmixes: [
    layout: { channelCount: number; speakerMask?: number },
    left: number[],
    right: number[],
  ][] = [
    [{ channelCount: 2 }, [1, 0], [0, 1]],
    [{ channelCount: 6 }, [1, 0, half, 0, half, 0], [0, 1, half, 0, 0, half]],
    [{ channelCount: 8 }, [1, 0, half, 0, half, 0, half, 0], [0, 1, half, 0, 0, half, 0, half]],
    // Left, right, centre, back centre.
    [{ channelCount: 4, speakerMask: 0x107 }, [1, 0, half, 0.5], [0, 1, half, 0.5]],
  ];
  test.each(downmixes)('%j is mixed down after ITU-R BS.775', (layout, left, right) => {
    const scaled = (row: number[]) => {
      const most = Math.max(
        1,
        row.reduce((a, b) => a + b, 0),
      );
      return row.map((x) => x / most);
    };
    const close = (found: readonly (readonly number[])[], wanted: number[][]) => {
      expect(found.map((row) => row.length)).toEqual(wanted.map((row) => row.length));
      found.forEach((row, r) => row.forEach((x, i) => expect(x).toBeCloseTo(wanted[r]![i]!, 9)));
    };
    close(stereoMatrix(layout), [scaled(left), scaled(right)]);
    close(monoMatrix(layout), [scaled(left.map((x, i) => x + right[i]!))]);
  });

  test('no mixdown can clip', () => {
    for (let channelCount = 1; channelCount <= 8; channelCount++) {
      for (const row of [...stereoMatrix({ channelCount }), ...monoMatrix({ channelCount })]) {
        expect(row.reduce((sum, gain) => sum + gain, 0)).toBeLessThanOrEqual(1 + 1e-12);
      }
    }
  });

  test('mono is on both sides, and stays what it is', () => {
    expect(stereoMatrix({ channelCount: 1 })).toEqual([[1], [1]]);
    expect(monoMatrix({ channelCount: 1 })).toEqual([[1]]);
    expect(isMixable(null)).toBe(false);
    expect(isMixable(['L', 'R', 'Cb'])).toBe(true);
    expect(isMixable(['L', 'Tfl' as 'L'])).toBe(false);
    expect(() => stereoMatrix({ channelCount: 9 })).toThrow(/Nobody has said/);
  });
});

describe('speed and rate', () => {
  test('a length follows from the factor in millionths', () => {
    expect(spedFrames(48_000, 2)).toBe(24_000);
    expect(spedFrames(48_000, 0.5)).toBe(96_000);
    expect(spedFrames(1_000_000, 1.000_001)).toBe(999_999);
    expect(spedFrames(48_000, 1)).toBe(48_000);
  });

  test('pitch goes along, the rate stays; another label changes nothing else', async () => {
    const tone = sourceFromChannels([sine(48_000, 1_000, 9_600, 0.5)], 48_000, { gridBits: 16 });
    const faster = changeSpeed(tone, 1.5);
    expect([faster.rateHz, faster.frames]).toEqual([48_000, 6_400]);
    const [sound] = await collectChannels(streamOf(faster));
    const wanted = sine(48_000, 1_500, 6_400, 0.5);
    for (let i = 500; i < 5_900; i++) expect(Math.abs(sound![i]! - wanted[i]!)).toBeLessThan(1e-3);
    const other = relabel(tone, 44_100);
    expect({ ...other, rateHz: 48_000 }).toEqual(tone);
    expect(other.rateHz).toBe(44_100);
  });
});
