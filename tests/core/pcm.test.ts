import fc from 'fast-check';
import { memorySource } from '@/core/bytes/source';
import { trim } from '@/core/dsp/splice';
import { LevelMeter } from '@/core/measure/level';
import { PyramidBuilder, readColumns } from '@/core/measure/pyramid';
import { collectChannels, pcmFromChannels } from '@/core/pcm/pcm';
import { sourceFromChannels, streamOf } from '@/core/pcm/source';
import { shapeAfter } from '@/core/recipe/recipe';
import type { Recipe, Step } from '@/core/recipe/types';
import type { ChannelMode } from '@/core/recipe/steps/channels';
import { rendered } from './files';
import { noise, sine } from './signals';

const stereo = (frames: number) => [noise(frames, 1), noise(frames, 2)];

test('trim is a slice, whatever the blocks', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.integer({ min: 1, max: 5_000 }),
      fc.integer({ min: 1, max: 700 }),
      fc.nat(),
      fc.nat(),
      async (frames, blockFrames, a, b) => {
        const [start, end] = [a % frames, b % frames].sort((x, y) => x - y) as [number, number];
        const sound = stereo(frames);
        const source = sourceFromChannels(sound, 8_000, { blockFrames });
        const kept = await collectChannels(streamOf(trim(source, start, end + 1)));
        expect(kept).toEqual(sound.map((channel) => channel.slice(start, end + 1)));
      },
    ),
  );
});

test('trim refuses a span outside the sound', async () => {
  const whole = sourceFromChannels(stereo(100), 8_000);
  for (const [start, end] of [
    [100, 101],
    [50, 101],
  ] as const) {
    await expect(collectChannels(streamOf(trim(whole, start, end)))).rejects.toMatchObject({
      code: 'bad-span',
    });
  }
});

test('channel changes are exact', async () => {
  const [left, right] = stereo(3_000) as [Float32Array, Float32Array];
  const change = async (mode: ChannelMode, sound = [left, right], channel?: number) =>
    collectChannels(
      await rendered([{ kind: 'channels', on: true, params: { mode, channel } }], sound, 99),
    );
  expect(await change('left')).toEqual([left]);
  expect(await change('right')).toEqual([right]);
  expect(await change('mix')).toEqual([left.map((x, i) => (x + right[i]!) * 0.5)]);
  expect(await change('stereo')).toEqual([left, right]);
  expect(await change('swap')).toEqual([right, left]);
  expect(await change('keep', [left, right], 2)).toEqual([right]);
  expect(await change('stereo', [left])).toEqual([left, left]);
  expect(await change('left', [left])).toEqual([left]);
});

const step: fc.Arbitrary<Step> = fc.oneof(
  fc
    .constantFrom('left', 'right', 'mix', 'stereo', 'swap')
    .map((mode) => ({ kind: 'channels', on: true, params: { mode } })),
  fc
    .constantFrom(8_000, 11_025, 22_050, 44_100)
    .map((rateHz) => ({ kind: 'resample', on: true, params: { rateHz } })),
  fc
    .tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 50, max: 90 }))
    .map(([startFrame, endFrame]) => ({
      kind: 'keep',
      on: true,
      params: { startFrame, endFrame },
    })),
);

test('a recipe gives exactly the shape that it states, and its blocks never matter', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(step, { maxLength: 4 }),
      fc.integer({ min: 400, max: 3_000 }),
      fc.integer({ min: 1, max: 900 }),
      async (steps, frames, blockFrames) => {
        const recipe: Recipe = { version: 1, steps };
        let stated;
        try {
          stated = shapeAfter(recipe, { rateHz: 22_050, channelCount: 2, frames });
        } catch {
          return; // a span outside what an earlier step left: refused, which is right
        }
        const render = async (size?: number) =>
          collectChannels(await rendered(recipe.steps, stereo(frames), size, 22_050));
        const whole = await render();
        expect(whole.length).toBe(stated.channelCount);
        expect(whole[0]!.length).toBe(stated.frames);
        expect(await render(blockFrames)).toEqual(whole);
      },
    ),
    { numRuns: 60 },
  );
});

test('levels: full-scale sine, silence, polarity', () => {
  const measure = (channels: Float32Array[]) => {
    const meter = new LevelMeter(channels.length);
    meter.push(channels);
    return meter.result();
  };
  const full = sine(48_000, 1_000, 48_000, 1);
  expect(measure([full]).rmsDbfs).toBeCloseTo(-3.01, 2);
  expect(measure([full]).peakDbfs).toBeCloseTo(0, 5);
  expect(measure([full, full]).correlation).toBeCloseTo(1, 6);
  expect(measure([full, full.map((x) => -x)]).correlation).toBeCloseTo(-1, 6);
  expect(measure([new Float32Array(9), new Float32Array(9)])).toEqual({
    peakDbfs: null,
    rmsDbfs: null,
    correlation: null,
    dcOffset: 0,
    identicalChannels: true,
  });
});

test('every column of the pyramid holds the extremes of at least its frames', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.integer({ min: 300, max: 40_000 }),
      fc.integer({ min: 1, max: 50 }),
      fc.integer({ min: 1, max: 3_000 }),
      async (frames, columns, blockFrames) => {
        const sound = stereo(frames);
        const builder = new PyramidBuilder(2);
        for await (const block of pcmFromChannels(sound, 8_000, { blockFrames }).blocks)
          builder.push(block);
        const picture = await readColumns(memorySource(builder.finish()), 0, frames, columns);
        const per = frames / columns;
        picture.forEach((channel, c) =>
          channel.forEach(({ min, max, rms }, i) => {
            const part = sound[c]!.subarray(Math.ceil(i * per), Math.floor((i + 1) * per));
            for (const x of part)
              if (x < min || x > max) throw new Error(`frame outside column ${i}`);
            expect(rms).toBeLessThanOrEqual(Math.max(-min, max) + 1e-6);
          }),
        );
      },
    ),
    { numRuns: 40 },
  );
});
