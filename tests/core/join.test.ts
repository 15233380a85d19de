import fc from 'fast-check';
import { planJoin, sheetOf, type Join, type PartFacts } from '@/core/join/plan';
import { joined } from '@/core/join/render';
import { collectChannels } from '@/core/pcm/pcm';
import { sourceFromChannels } from '@/core/pcm/source';
import { applyRecipe } from '@/core/recipe/recipe';
import { emptyRecipe } from '@/core/recipe/types';
import { step } from './files';
import { noise, sine } from './signals';

const join = (gaps: number[], more: Partial<Join> = {}): Join => ({
  parts: gaps.map((gapSeconds, soundId) => ({ soundId, gapSeconds })),
  overlap: 'crossfade',
  rateHz: null,
  channelCount: null,
  ...more,
});

const part = (
  name: string,
  shape: Partial<PartFacts['shape']> = {},
  more: Partial<PartFacts> = {},
): PartFacts => ({
  name,
  shape: { rateHz: 8_000, channelCount: 1, frames: 1_000, ...shape },
  recipe: emptyRecipe,
  bitDepth: 32,
  ...more,
});

/** Joins whole channels as planned, and looks after what was opened. */
async function render(how: Join, sounds: Float32Array[][], rates: number[] = []) {
  const facts = sounds.map((channels, i) =>
    part(String(i), {
      rateHz: rates[i] ?? 8_000,
      channelCount: channels.length,
      frames: channels[0]!.length,
    }),
  );
  const plan = planJoin(how, facts);
  let [open, mostOpen] = [0, 0];
  const parts = plan.placed.map((place, i) => ({
    ...place,
    async open() {
      mostOpen = Math.max(mostOpen, ++open);
      const source = sourceFromChannels(sounds[i]!, rates[i] ?? 8_000, { blockFrames: 333 });
      return {
        source: await applyRecipe(place.recipe, source),
        close: async () => void open--,
      };
    },
  }));
  const channels = await collectChannels(joined(parts, plan.shape, how.overlap));
  return { channels, plan, open, mostOpen };
}

test('parts lie one behind the other to the frame, with the gaps that were asked for', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(
        fc.record({
          frames: fc.integer({ min: 1, max: 2_000 }),
          gap: fc.integer({ min: 0, max: 900 }),
        }),
        { minLength: 1, maxLength: 6 },
      ),
      async (list) => {
        const sounds = list.map(({ frames }, i) => [noise(frames, i + 1)]);
        const { channels, plan, open, mostOpen } = await render(
          join(list.map(({ gap }) => gap / 8_000)),
          sounds,
        );
        const expected = list.flatMap(({ gap }, i) => [
          ...sounds[i]![0]!,
          ...new Float32Array(i === list.length - 1 ? 0 : gap),
        ]);
        expect(channels).toEqual([Float32Array.from(expected)]);
        expect(plan.shape.frames).toBe(expected.length);
        expect(open).toBe(0);
        // What has not begun is not opened: all of it fits into one block here.
        expect(mostOpen).toBeLessThanOrEqual(list.length);
      },
    ),
    { numRuns: 40 },
  );
});

test('an overlap shortens the whole; crossfaded it keeps the power of unlike sounds, mixed it adds', async () => {
  const [a, b] = [sine(8_000, 500, 4_000), sine(8_000, 711, 4_000)];
  const faded = await render(join([-0.25, 0]), [[a], [b]]);
  expect(faded.channels[0]!.length).toBe(6_000);
  expect(faded.channels[0]!.slice(0, 2_000)).toEqual(a.slice(0, 2_000));
  expect(faded.channels[0]!.slice(4_000)).toEqual(b.slice(2_000));
  const power = (x: Float32Array) => x.reduce((sum, v) => sum + v * v, 0) / x.length;
  expect(power(faded.channels[0]!.subarray(2_000, 4_000)) / power(a)).toBeCloseTo(1, 1);
  const mixed = await render(join([-0.25, 0], { overlap: 'mix' }), [[a], [b]]);
  mixed.channels[0]!.subarray(2_000, 4_000).forEach((x, i) =>
    expect(x).toBeCloseTo(a[2_000 + i]! + b[i]!, 6),
  );
});

test('rates and channels are conformed, and the list says what and why', async () => {
  const mono = [sine(8_000, 300, 4_000)];
  const stereo = [sine(16_000, 300, 8_000), sine(16_000, 400, 8_000)];
  const { channels, plan } = await render(join([0, 0]), [mono, stereo], [8_000, 16_000]);
  expect(plan.shape).toEqual({ rateHz: 16_000, channelCount: 2, frames: 16_000 });
  expect(channels.map((channel) => channel.slice(8_000))).toEqual(stereo);
  expect(channels[0]!.slice(0, 8_000)).toEqual(channels[1]!.slice(0, 8_000));
  expect(plan.placed[0]!.conversions).toEqual([
    'mono → stereo: the same on both sides, for a join has one layout',
    '8 kHz → 16 kHz: resampled, for a join has one rate',
  ]);
  expect(plan.placed[1]!.conversions).toEqual([]);
});

test('depth, chosen rate and layout, unlike layouts', () => {
  const six = part('film', { channelCount: 6 }, { bitDepth: 16 });
  const plan = planJoin(join([0, 0], { rateHz: 4_000 }), [six, part('bell')]);
  expect(plan.shape).toEqual({ rateHz: 4_000, channelCount: 2, frames: 1_000 });
  expect(plan.placed[0]!.conversions).toEqual([
    '5.1 → stereo: mixed down, for a join has one layout',
    '8 kHz → 4 kHz: resampled, for a join has one rate',
    '16-bit → 32-bit float: nothing is lost',
  ]);
  expect(planJoin(join([0, 0]), [six, six]).shape.channelCount).toBe(6);
  expect(
    planJoin(join([0, 0], { channelCount: 1 }), [part('a', { channelCount: 2 }), part('b')])
      .placed[0]!.conversions[0],
  ).toMatch(/^stereo → mono: its channels are mixed/);
});

test('what cannot be joined is named', () => {
  const plan =
    (how: Join, ...parts: PartFacts[]) =>
    () =>
      planJoin(how, parts);
  expect(plan(join([]))).toThrow('There is nothing to join.');
  expect(plan(join([-0.2, 0]), part('long'), part('short', { frames: 900 }))).toThrow(
    '“long” is only 0:00.125 long, shorter than its overlaps.',
  );
  expect(plan(join([-0.1, -0.1, 0]), part('a'), part('b'), part('c'))).toThrow(/“b” is only/);
  const broken = { version: 1 as const, steps: [step('keep', { startFrame: 0, endFrame: 5_000 })] };
  expect(plan(join([0]), part('late', {}, { recipe: broken }))).toThrow(/“late” cannot be joined/);
  // The last one's gap leads nowhere.
  expect(planJoin(join([-9]), [part('alone')]).shape.frames).toBe(1_000);
});

test('the sheet says where parts lie behind the recipe of the whole', () => {
  const { placed } = planJoin(join([0.025, 0.025, 0]), [part('a'), part('b'), part('c')]);
  const all = sheetOf(placed, (span) => span, 8_000);
  expect(all).toEqual([
    { name: 'a', startFrame: 0, frames: 1_000, startSeconds: 0, seconds: 0.125 },
    { name: 'b', startFrame: 1_200, frames: 1_000, startSeconds: 0.15, seconds: 0.125 },
    { name: 'c', startFrame: 2_400, frames: 1_000, startSeconds: 0.3, seconds: 0.125 },
  ]);
  const later = sheetOf(
    placed,
    ({ startFrame, endFrame }) =>
      startFrame < 1_200 ? null : { startFrame: startFrame - 1_200, endFrame: endFrame - 1_200 },
    8_000,
  );
  expect(later.map(({ name, startFrame }) => [name, startFrame])).toEqual([
    ['b', 0],
    ['c', 1_200],
  ]);
});
