import fc from 'fast-check';
import { isCured, withCure } from '@/core/recipe/cure';
import { shapeAfter } from '@/core/recipe/recipe';
import { emptyRecipe, type Recipe } from '@/core/recipe/types';
import { memorySource } from '@/core/bytes/source';
import { probe } from '@/core/measure/probe';
import { worriesOf } from '@/core/measure/worries';
import { applySteps, encode, step } from './files';
import { noise, sine } from './signals';

const keep = (startFrame: number, endFrame: number) => step('keep', { startFrame, endFrame });
const recipe = (...steps: Recipe['steps']): Recipe => ({ version: 1, steps });

test('silence in front and behind are cured by one span', () => {
  const both = withCure(withCure(emptyRecipe, [keep(100, 1_000)]), [keep(0, 800)]);
  expect(both.steps).toEqual([keep(100, 800)]);
  expect(isCured(both, [keep(100, 1_000)])).toBe(true);
  expect(isCured(both, [keep(0, 800)])).toBe(true);
  expect(isCured(both, [keep(200, 1_000)])).toBe(false);
});

test('a span that a person chose is only made shorter, and stays where cures do not meet it', () => {
  expect(withCure(recipe(keep(50, 500)), [keep(100, 1_000)]).steps).toEqual([keep(100, 500)]);
  expect(withCure(recipe(keep(0, 50)), [keep(100, 1_000)]).steps).toEqual([keep(0, 50)]);
});

test('a span of what other steps made is no span of the source', () => {
  const resampled = recipe(step('resample', { rateHz: 8_000 }), keep(0, 10));
  expect(withCure(resampled, [keep(100, 1_000)]).steps).toEqual([
    keep(100, 1_000),
    ...resampled.steps,
  ]);
});

test('steps that are switched off cure nothing', () => {
  const off = recipe({ ...step('offset'), on: false });
  expect(isCured(off, [step('offset')])).toBe(false);
  expect(withCure(off, [step('offset')]).steps).toHaveLength(2);
});

test('a cure is put in once, and counts as done afterwards', () => {
  const cures = [
    [keep(10, 90)],
    [step('relabel', { rateHz: 22_050 })],
    [step('channels', { mode: 'left' })],
    [step('normalise', { to: 'true-peak', target: -1 })],
    [step('offset')],
    [step('resample', { rateHz: 8_000 })],
  ];
  fc.assert(
    fc.property(fc.shuffledSubarray(cures), (chosen) => {
      const once = chosen.reduce((made, cure) => withCure(made, cure), emptyRecipe);
      expect(once.steps).toHaveLength(chosen.length);
      for (const cure of chosen) expect(isCured(once, cure)).toBe(true);
      expect(chosen.reduce((made, cure) => withCure(made, cure), once)).toEqual(once);
      // Whatever the order of curing, the recipe can be followed.
      expect(() =>
        shapeAfter(once, { rateHz: 44_100, channelCount: 2, frames: 100 }),
      ).not.toThrow();
    }),
  );
});

test('what was cured does not worry any more when it is measured again', async () => {
  const rateHz = 44_100;
  const silent = new Float32Array(rateHz);
  const quiet = noise(rateHz, 5, 0.004).map((x) => Math.round((x + 0.05) * 2 ** 23) / 2 ** 23);
  const left = Float32Array.from([...silent, ...quiet, ...silent]);
  const { facts } = await probe(
    memorySource(await encode([left, left], rateHz, 'wav', { bits: 24 }, 24)),
  );
  const worries = worriesOf(facts, 'x.wav');
  expect(worries.map(({ code }) => code)).toEqual(
    expect.arrayContaining(['silent-head', 'silent-tail', 'identical-channels', 'dc-offset']),
  );
  const cured = worries.reduce((made, { cure }) => withCure(made, cure), emptyRecipe);
  const channels = await applySteps(cured.steps, [left, left], undefined, rateHz);
  const again = await probe(memorySource(await encode(channels, rateHz, 'wav', { bits: 24 })));
  const open = worriesOf(again.facts, 'x.wav').map(({ code }) => code);
  for (const { code, cure } of worries) if (cure.length > 0) expect(open).not.toContain(code);
});

test('warnings of readers are worries without a cure', async () => {
  const bytes = await encode([sine(8_000, 300, 8_000)], 8_000, 'wav', { bits: 16 });
  const { facts, warnings } = await probe(memorySource(bytes.subarray(0, 9_000)));
  const worry = worriesOf(facts, 'x.wav', warnings).find(({ code }) => code === 'truncated');
  expect(worry).toMatchObject({ name: 'cut off', cure: [] });
});
