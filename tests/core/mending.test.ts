import fc from 'fast-check';
import type { Warning } from '@/core/formats/types';
import { collectChannels } from '@/core/pcm/pcm';
import { marksAfter, shapeAfter } from '@/core/recipe/recipe';
import { plainTools, type Step } from '@/core/recipe/types';
import { rendered, step } from './files';
import { sine } from './signals';

describe('declick', () => {
  const clean = () => sine(44_100, 330, 60_000, 0.4).map((x, i) => x + 0.1 * Math.sin(i * 0.31));

  test('finds the impulses that were put in, mends them, and leaves the rest bit for bit', async () => {
    const original = clean();
    const hurt = original.slice();
    const places = [3_000, 20_480, 20_900, 41_777, 59_000];
    places.forEach((at, n) => {
      for (let i = 0; i <= n % 3; i++) hurt[at + i]! += n % 2 ? -0.6 : 0.7;
    });
    const found: Warning[] = [];
    const tools = { ...plainTools, note: (warning: Warning) => found.push(warning) };
    const [mended] = await collectChannels(
      await rendered([step('declick')], [hurt], 7_000, 44_100, tools),
    );
    expect(found).toMatchObject([
      { code: 'mended', message: expect.stringContaining('5 clicks were mended') },
    ]);
    places.forEach((at) => {
      for (let i = at - 1; i < at + 4; i++)
        expect(Math.abs(mended![i]! - original[i]!)).toBeLessThan(0.02);
    });
    let changed = 0;
    mended!.forEach((x, i) => (changed += x === hurt[i] ? 0 : 1));
    // A click is mended together with the frames whose prediction it disturbed.
    expect(changed).toBeLessThan(places.length * 30);
  });
});

describe('loops and markers go where their frames go', () => {
  const marks = {
    tags: { title: 'Bell' },
    loop: { startFrame: 10_000, endFrame: 30_000 },
    markers: [{ frame: 5_000, name: 'strike' }],
  };
  const after = (...steps: Step[]) =>
    marksAfter({ version: 1, steps }, { rateHz: 48_000, channelCount: 1, frames: 48_000 }, marks);

  test.each([
    ['resample', { rateHz: 44_100 }, { startFrame: 9_188, endFrame: 27_563 }, 4_594],
    [
      'keep',
      { startFrame: 4_000, endFrame: 40_000 },
      { startFrame: 6_000, endFrame: 26_000 },
      1_000,
    ],
    ['keep', { startFrame: 12_000, endFrame: 40_000 }, null, undefined],
    ['cut', { startFrame: 0, endFrame: 4_000 }, { startFrame: 6_000, endFrame: 26_000 }, 1_000],
    [
      'cut',
      { startFrame: 15_000, endFrame: 16_000 },
      { startFrame: 10_000, endFrame: 29_000 },
      5_000,
    ],
    ['silence', { atFrame: 0, frames: 100 }, { startFrame: 10_100, endFrame: 30_100 }, 5_100],
    ['reverse', {}, { startFrame: 18_000, endFrame: 38_000 }, 43_000],
    ['speed', { factor: 2 }, { startFrame: 5_000, endFrame: 15_000 }, 2_500],
    ['relabel', { rateHz: 24_000 }, { startFrame: 10_000, endFrame: 30_000 }, 5_000],
    ['gain', { gainDb: 3 }, { startFrame: 10_000, endFrame: 30_000 }, 5_000],
  ] as const)('%s %j', (kind, params, loop, marker) => {
    const moved = after(step(kind, params));
    expect(moved.loop).toEqual(loop);
    expect(moved.markers[0]?.frame).toBe(marker);
    expect(moved.tags).toEqual(marks.tags);
  });

  test('a rate change keeps a loop whole and inside the sound, whatever the rates', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 300_000 }),
        fc.nat(),
        fc.nat(),
        fc.constantFrom(8_000, 11_025, 22_050, 44_100, 48_000, 96_000),
        fc.constantFrom(8_000, 11_025, 22_050, 44_100, 48_000, 96_000),
        (frames, a, b, fromHz, toHz) => {
          const [startFrame, endFrame] = [a % frames, 1 + (b % frames)].sort((x, y) => x - y) as [
            number,
            number,
          ];
          if (startFrame === endFrame) return;
          const before = { rateHz: fromHz, channelCount: 1, frames };
          const recipe = { version: 1 as const, steps: [step('resample', { rateHz: toHz })] };
          const { loop } = marksAfter(recipe, before, {
            ...marks,
            markers: [],
            loop: { startFrame, endFrame },
          });
          const length = Math.round(((endFrame - startFrame) * toHz) / fromHz);
          if (length < 1) {
            expect(loop).toBeNull();
            return;
          }
          const total = shapeAfter(recipe, before).frames;
          expect(loop!.endFrame - loop!.startFrame).toBe(Math.min(length, total));
          expect(loop!.startFrame).toBeGreaterThanOrEqual(0);
          expect(loop!.endFrame).toBeLessThanOrEqual(total);
        },
      ),
      // Half a frame, which was once rounded down.
      { examples: [[20, 13, 29, 48_000, 8_000]] },
    );
  });
});
