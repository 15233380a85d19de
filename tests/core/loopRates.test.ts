import fc from 'fast-check';
import { planJoin, type Join } from '@/core/join/plan';
import { joined } from '@/core/join/render';
import { pieceRecipe } from '@/core/loop/parts';
import { noMarks, type Loop } from '@/core/marks';
import { collectChannels } from '@/core/pcm/pcm';
import { sourceFromChannels, streamOf, type PcmSource } from '@/core/pcm/source';
import { applyRecipe } from '@/core/recipe/recipe';
import type { Recipe, Step } from '@/core/recipe/types';
import { tonesAt } from '../../tools/answers/signals';
import { step } from './files';

/** Loops through a change of rate or speed, held against what they must be: worked out here, by nothing of Bijou. */

const FROM = 44_100;
const rates = [8_000, 11_025, 22_050, 32_000, 37_800, 48_000, 48_001, 96_000];
const db = (x: number) => 20 * Math.log10(x);

/** Several tones of whole periods in `length` frames; a place between two frames is one as well. */
const TONES = [
  { periods: 3, size: 0.4, phase: 0.3 },
  { periods: 41, size: 0.2, phase: 1.1 },
  { periods: 117, size: 0.1, phase: 2 },
];
const around = (place: number, length: number) => tonesAt(TONES, place, length);

function sound(frames: number, value: (frame: number) => number, loop: Loop | null): PcmSource {
  const channel = Float32Array.from({ length: frames }, (_, i) => value(i));
  return { ...sourceFromChannels([channel], FROM, { blockFrames: 3_333 }), loop };
}

async function made(source: PcmSource, ...steps: Step[]) {
  const out = await applyRecipe({ version: 1, steps }, source);
  const [channel] = await collectChannels(streamOf(out));
  return { out, channel: channel!, loop: out.loop! };
}

/** The largest deviation over a stretch, in dB of full scale. */
function worst(channel: Float32Array, from: number, to: number, ideal: (i: number) => number) {
  let most = 1e-9;
  for (let i = from; i < to; i++) most = Math.max(most, Math.abs(channel[i]! - ideal(i)));
  return db(most);
}

const LENGTH = 30_001;

test.each(rates)(
  'a whole-file loop of whole periods is one at %i Hz, to the last frame',
  async (rateHz) => {
    const whole = { startFrame: 0, endFrame: LENGTH };
    const source = sound(LENGTH, (i) => around(i, LENGTH), whole);
    const { channel, loop } = await made(source, step('resample', { rateHz }));
    const length = Math.round((LENGTH * rateHz) / FROM);
    expect(loop).toEqual({ startFrame: 0, endFrame: length });
    expect(channel.length).toBe(length);
    expect(worst(channel, 0, length, (i) => around(i, length))).toBeLessThan(-100);
  },
);

test.each([0.5, 0.97, 1.1, 2])('at %f times the speed as well', async (factor) => {
  const source = sound(LENGTH, (i) => around(i, LENGTH), { startFrame: 0, endFrame: LENGTH });
  const { channel } = await made(source, step('speed', { factor }));
  expect(channel.length).toBe(Math.round(LENGTH / factor));
  expect(worst(channel, 0, channel.length, (i) => around(i, channel.length))).toBeLessThan(-100);
});

test.each(rates)('with an intro and a tail that go on in it, at %i Hz', async (rateHz) => {
  const stretch = { startFrame: 5_003, endFrame: 5_003 + LENGTH };
  const total = stretch.endFrame + 7_000;
  // All of it is one sound of whole periods in the loop: only then is known what is right everywhere.
  const source = sound(total, (i) => around(i - stretch.startFrame, LENGTH), stretch);
  const { channel, loop } = await made(source, step('resample', { rateHz }));
  const length = loop.endFrame - loop.startFrame;
  const ratio = rateHz / FROM;
  expect(length).toBe(Math.round(LENGTH * ratio));
  const start = loop.startFrame / ratio - stretch.startFrame;
  const inLoop = (i: number) => around(start + ((i - loop.startFrame) * LENGTH) / length, LENGTH);
  expect(worst(channel, loop.startFrame, loop.endFrame, inLoop)).toBeLessThan(-100);
  // In front of it and behind it at the plain rate, from the very places where the loop begins and ends.
  const edge = Math.ceil(200 * Math.max(1, ratio));
  const inFront = (i: number) => around(i / ratio - stretch.startFrame, LENGTH);
  expect(worst(channel, edge, loop.startFrame, inFront)).toBeLessThan(-100);
  const behind = (i: number) => around(start + LENGTH + (i - loop.endFrame) / ratio, LENGTH);
  expect(worst(channel, loop.endFrame, channel.length - edge, behind)).toBeLessThan(-100);
});

test('another sound in front of a loop does not reach into it, nor one behind it', async () => {
  const stretch = { startFrame: 9_000, endFrame: 9_000 + LENGTH };
  const inside = (i: number) => i >= stretch.startFrame && i < stretch.endFrame;
  const value = (i: number) => (inside(i) ? around(i - stretch.startFrame, LENGTH) : i % 2);
  const { channel, loop } = await made(
    sound(LENGTH + 20_000, value, stretch),
    step('resample', { rateHz: 48_000 }),
  );
  const length = loop.endFrame - loop.startFrame;
  const start = (loop.startFrame * FROM) / 48_000 - stretch.startFrame;
  const inLoop = (i: number) => around(start + ((i - loop.startFrame) * LENGTH) / length, LENGTH);
  expect(worst(channel, loop.startFrame, loop.endFrame, inLoop)).toBeLessThan(-100);
});

test('a loop back and forth turns round where it did', async () => {
  // What is alike on both sides of its first and its last frame.
  const value = (i: number) => 0.5 * Math.cos((Math.PI * 37 * (i - 1_000)) / (LENGTH - 1));
  const loop: Loop = { startFrame: 1_000, endFrame: 1_000 + LENGTH, isBackAndForth: true };
  for (const rateHz of [22_050, 48_000]) {
    const { channel, loop: moved } = await made(
      sound(LENGTH + 3_000, value, loop),
      step('resample', { rateHz }),
    );
    expect(moved.isBackAndForth).toBe(true);
    const length = moved.endFrame - moved.startFrame;
    const turned = (i: number) =>
      0.5 * Math.cos((Math.PI * 37 * (i - moved.startFrame)) / (length - 1));
    expect(worst(channel, moved.startFrame, moved.endFrame, turned)).toBeLessThan(-100);
  }
});

test('pieces, joined pieces and unrolled loops go on in each other', async () => {
  const stretch = { startFrame: 0, endFrame: LENGTH };
  const source = sound(LENGTH, (i) => around(i, LENGTH), stretch);
  const marks = { ...noMarks, loop: stretch };
  const shape = { rateHz: FROM, channelCount: 1, frames: LENGTH };
  const resample: Recipe = { version: 1, steps: [step('resample', { rateHz: 48_000 })] };
  const length = Math.round((LENGTH * 48_000) / FROM);
  for (const piece of ['first', 'repeat'] as const) {
    const recipe = pieceRecipe(resample, shape, marks, piece);
    const { channel } = await made(source, ...recipe.steps);
    expect(worst(channel, 0, length, (i) => around(i, length))).toBeLessThan(-100);
  }
  const parts = (['first', 'repeat', 'repeat', 'repeat'] as const).map((piece) => piece);
  const join: Join = {
    parts: parts.map((piece) => ({ soundId: 1, gapSeconds: 0, piece })),
    overlap: 'mix',
    rateHz: 48_000,
    channelCount: null,
  };
  const plan = planJoin(
    join,
    parts.map((piece) => ({
      ...{ name: piece, shape, loop: stretch, piece, bitDepth: null },
      recipe: { version: 1 as const, steps: [] },
    })),
  );
  expect(plan.shape.frames).toBe(4 * length);
  const opened = plan.placed.map((place) => ({
    ...place,
    open: async () => ({
      source: await applyRecipe(place.recipe, source),
      close: async () => undefined,
    }),
  }));
  const [whole] = await collectChannels(joined(opened, plan.shape, 'mix'));
  expect(worst(whole!, 0, 4 * length, (i) => around(i, length))).toBeLessThan(-100);
});

test('from any frame on it gives the very same frames, however short the loop', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.integer({ min: 0, max: 300 }),
      fc.integer({ min: 1, max: 900 }),
      fc.integer({ min: 0, max: 300 }),
      fc.constantFrom(...rates),
      fc.double({ min: 0, max: 0.999, noNaN: true }),
      fc.boolean(),
      async (before, length, behind, rateHz, share, isBack) => {
        const loop: Loop = {
          startFrame: before,
          endFrame: before + length,
          ...(isBack && { isBackAndForth: true as const }),
        };
        const frames = before + length + behind;
        const source = sound(frames, (i) => Math.sin(i * i), loop);
        const { out, channel, loop: moved } = await made(source, step('resample', { rateHz }));
        expect(channel.length).toBe(Math.max(1, Math.round((frames * rateHz) / FROM)));
        if (moved) expect(moved.endFrame).toBeLessThanOrEqual(channel.length);
        const from = Math.floor(share * channel.length);
        const [rest] = await collectChannels(streamOf(out, from));
        expect(rest).toEqual(channel.slice(from));
      },
    ),
    { numRuns: 60 },
  );
});
