import { isCured } from '@/core/recipe/cure';
import { differenceTitle } from '@/core/recipe/difference';
import { keptOfSource, withKept } from '@/core/recipe/kept';
import { noMarks, type Loop } from '@/core/marks';
import {
  kindOf,
  marksAlong,
  parseRecipe,
  recipeKey,
  rereads,
  shapeAfter,
  walkRecipe,
} from '@/core/recipe/recipe';
import { recipeForMany, retimed } from '@/core/recipe/retime';
import { stepKinds } from '@/core/recipe/steps';
import { spanThrough, traceRecipe } from '@/core/recipe/trace';
import type { Recipe, Shape, Step } from '@/core/recipe/types';
import { step } from './files';

const mono: Shape = { rateHz: 8_000, channelCount: 1, frames: 8_000 };
const recipe = (...steps: Step[]): Recipe => ({ version: 1, steps });
const kind = (name: string) => stepKinds.find((one) => one.kind === name)!;

describe('a recipe', () => {
  const off = { ...step('reverse'), on: false };
  test('is told from others by what is on and how it is set', () => {
    expect(recipeKey(recipe(step('gain', { gainDb: -3 }), off))).toBe(
      recipeKey(recipe(step('gain', { gainDb: -3 }))),
    );
    const keys = [
      recipe(),
      recipe(step('gain', { gainDb: -3 })),
      recipe(step('gain', { gainDb: -4 })),
      recipe(step('reverse')),
    ].map(recipeKey);
    expect(new Set(keys).size).toBe(4);
  });
  test('goes into the sound in several places if one of its steps does', () => {
    const cut = step('cut', { startFrame: 1, endFrame: 2 });
    const shape = { rateHz: 48_000, channelCount: 1, frames: 100 };
    const goesBack = (recipe: Recipe, loop: Loop | null = null) =>
      rereads(recipe, marksAlong(recipe, shape, { ...noMarks, loop }));
    const [gain, resample] = [step('gain', { gainDb: 1 }), step('resample', { rateHz: 44_100 })];
    expect(goesBack(recipe(step('reverse'), gain))).toBe(
      Boolean(kind('reverse').rereads?.({}, null)),
    );
    expect(goesBack(recipe(gain))).toBe(false);
    expect(goesBack(recipe(gain, cut))).toBe(true);
    expect(goesBack(recipe({ ...cut, on: false }))).toBe(false);
    expect(goesBack(recipe(gain, resample))).toBe(false);
    // A loop is read around, but only while it is one.
    const loop = { startFrame: 10, endFrame: 90 };
    expect(goesBack(recipe(gain, resample), loop)).toBe(true);
    expect(goesBack(recipe(step('keep', { startFrame: 0, endFrame: 20 }), resample), loop)).toBe(
      false,
    );
  });
  test('from outside is held against the schema of each step; unknown kinds are kept', () => {
    const gain = step('gain', { gainDb: 1 });
    expect(parseRecipe(recipe(gain, step('of tomorrow', { any: 1 }))).steps).toHaveLength(2);
    expect(() => parseRecipe(recipe(step('gain', { gainDb: 'loud' })))).toThrow(/cannot be used/);
    expect(() => parseRecipe(recipe(step('gain', { gainDb: 1, more: 1 })))).toThrow(/more/);
    expect(() => parseRecipe(recipe(step('of tomorrow', { text: 'x'.repeat(100_000) })))).toThrow(
      /too long/,
    );
    expect(kindOf(step('of tomorrow'))).toBeUndefined();
  });
  test('is walked step by step: what is off or cannot be done changes nothing', () => {
    const [first, second, third] = walkRecipe(
      recipe(off, step('of tomorrow'), step('keep', { startFrame: 0, endFrame: 10 })),
      mono,
    );
    expect(first).toMatchObject({ after: mono, problem: null });
    expect(second).toMatchObject({
      after: mono,
      sentence: 'a step of a newer Bijou: of tomorrow',
      problem: { code: 'bad-setting' },
    });
    expect(third).toMatchObject({ before: mono, after: { frames: 10 }, problem: null });
  });
});

describe('a recipe at another rate', () => {
  test('keeps its times; what had a length keeps one, and what had none gets none', () => {
    const params = (of: Recipe) => of.steps.map((one) => one.params);
    const slow = retimed(
      recipe(
        step('silence', { atFrame: 0, frames: 1 }),
        step('pad', { headFrames: 0, tailFrames: 480 }),
        step('gain', { gainDb: -6 }),
        step('resample', { rateHz: 48_000 }),
        step('fade-in', { frames: 480, shape: 's' }),
        step('of tomorrow', { frames: 480 }),
      ),
      48_000,
      8_000,
    );
    expect(params(slow)).toEqual([
      { atFrame: 0, frames: 1 },
      { headFrames: 0, tailFrames: 80 },
      { gainDb: -6 },
      { rateHz: 48_000 },
      // Behind the resampling both have one rate again.
      { frames: 480, shape: 's' },
      { frames: 480 },
    ]);
    const cut = retimed(recipe(step('cut', { startFrame: 1, endFrame: 480 })), 48_000, 8_000);
    // What is not set stays so.
    expect(params(cut)).toEqual([{ startFrame: 0, endFrame: 80 }]);
  });
  test('stands behind what a sound has, at the rate that it has there, or in its place', () => {
    const own = recipe(step('resample', { rateHz: 8_000 }), {
      ...step('resample', { rateHz: 96_000 }),
      on: false,
    });
    const forMany = recipe(step('pad', { headFrames: 0, tailFrames: 480 }));
    const how = { rateHz: 48_000, mode: 'behind' as const };
    expect(recipeForMany(forMany, how, own, 48_000).steps).toEqual([
      ...own.steps,
      step('pad', { headFrames: 0, tailFrames: 80 }),
    ]);
    expect(recipeForMany(forMany, { ...how, mode: 'instead' }, own, 24_000).steps).toEqual([
      step('pad', { headFrames: 0, tailFrames: 240 }),
    ]);
  });
});

describe('spans through a recipe', () => {
  const through = (steps: Step[], startFrame: number, endFrame: number) =>
    spanThrough(
      traceRecipe(recipe(...steps), mono),
      { startFrame, endFrame },
      shapeAfter(recipe(...steps), mono).frames,
    );
  test('are found where they land, as far as they are kept', () => {
    const keep = step('keep', { startFrame: 1_000, endFrame: 5_000 });
    expect(through([], 10, 20)).toEqual({ startFrame: 10, endFrame: 20 });
    expect(through([keep], 2_000, 3_000)).toEqual({ startFrame: 1_000, endFrame: 2_000 });
    expect(through([keep], 0, 500)).toBeNull();
    expect(through([keep], 6_000, 7_000)).toBeNull();
    expect(through([keep], 500, 3_000)!.endFrame).toBe(2_000);
    expect(through([keep], 500, 3_000)!.startFrame).toBe(0);
    expect(through([keep], 4_000, 7_000)!.startFrame).toBe(3_000);
    expect(through([step('reverse')], 1_000, 2_000)).toEqual({
      startFrame: 6_000,
      endFrame: 7_000,
    });
    expect(through([{ ...keep, on: false }], 10, 20)).toEqual({ startFrame: 10, endFrame: 20 });
  });
});

test('pictures follow how loud each frame of the source is left', () => {
  const levels = (steps: Step[], frames: number[]) => {
    const { envelope } = traceRecipe(recipe(...steps), mono);
    return frames.map((frame) => {
      const level = envelope(frame);
      return level === null ? null : Number(level.toFixed(4));
    });
  };
  const fadeIn = step('fade-in', { frames: 1_000, shape: 'linear' });
  const fadeOut = step('fade-out', { frames: 1_000, shape: 'linear' });
  expect(levels([fadeIn], [0, 250, 1_000, 5_000])).toEqual([0, 0.25, 1, 1]);
  expect(levels([fadeOut], [5_000, 7_000, 7_499, 7_999, 8_000])).toEqual([1, 0.999, 0.5, 0, 0]);
  // Both count; and a fade behind a cut fades what was kept.
  expect(levels([fadeIn, fadeIn], [500])).toEqual([0.25]);
  expect(levels([step('keep', { startFrame: 500, endFrame: 8_000 }), fadeIn], [400, 750])).toEqual([
    null,
    0.25,
  ]);
  expect(levels([step('gain', { gainDb: -6 }), { ...fadeIn, on: false }], [0])).toEqual([1]);
  const { back } = traceRecipe(recipe(step('reverse'), step('gain', { gainDb: 1 })), mono);
  expect(back(1_000)).toBe(7_000);
  const slow = traceRecipe(recipe(step('resample', { rateHz: 4_000 })), mono);
  expect([slow.forward(1_000), slow.back(500)]).toEqual([500, 1_000]);
});

test('what changed between two recipes has a title', () => {
  const gain = (gainDb: number) => step('gain', { gainDb });
  const [reverse, polarity] = [step('reverse'), step('polarity')];
  const title = (before: Step[], after: Step[]) =>
    differenceTitle(recipe(...before), recipe(...after));
  expect(title([], [gain(1)])).toBe('Add gain');
  expect(title([gain(1)], [gain(1), gain(1)])).toBe('Add gain');
  expect(title([], [gain(1), reverse])).toBe('Add gain and reverse');
  expect(title([], [gain(1), reverse, polarity])).toBe('Add 3 steps');
  expect(title([gain(1)], [])).toBe('Take out gain');
  expect(title([gain(1)], [gain(2)])).toBe('Change gain');
  expect(title([gain(1)], [{ ...gain(1), on: false }])).toBe('Switch gain off');
  expect(title([{ ...gain(1), on: false }], [gain(1)])).toBe('Switch gain on');
  expect(title([gain(1), reverse], [reverse, gain(1)])).toBe('Put steps in another order');
  expect(title([gain(1)], [reverse, polarity])).toBe('Change the recipe');
  expect(title([reverse, polarity], [gain(1)])).toBe('Change the recipe');
  expect(title([gain(1)], [reverse])).toBe('Change the recipe');
  expect(title([], [step('offset')])).toBe('Add DC removal');
  expect(title([], [step('of tomorrow')])).toBe('Add “of tomorrow”');
});

test('a worry is cured by all of its steps, switched on', () => {
  const cure = [step('gain', { gainDb: -3 }), step('reverse')];
  expect(isCured(recipe(...cure), cure)).toBe(true);
  expect(isCured(recipe(cure[0]!), cure)).toBe(false);
  expect(isCured(recipe(cure[0]!, { ...cure[1]!, on: false }), cure)).toBe(false);
  expect(isCured(recipe(step('gain', { gainDb: -2 }), cure[1]!), cure)).toBe(false);
  expect(isCured(recipe(), [])).toBe(false);
});

test('what is kept of a source is said by a step that counts in its frames', () => {
  const keep = step('keep', { startFrame: 10, endFrame: 20 });
  const off = { ...keep, on: false };
  expect(keptOfSource([keep])).toBe(keep);
  expect(keptOfSource([off, keep])).toBe(keep);
  expect(keptOfSource([step('relabel', { rateHz: 4_000 }), keep])).toBe(keep);
  // Behind another step it keeps a span of what that made.
  expect(keptOfSource([step('gain', { gainDb: 1 }), keep])).toBeUndefined();
  expect(keptOfSource([{ ...step('gain', { gainDb: 1 }), on: false }, keep])).toBe(keep);
  expect(keptOfSource([])).toBeUndefined();
  const other = step('keep', { startFrame: 0, endFrame: 50 });
  const gain = step('gain', { gainDb: 1 });
  expect(withKept(recipe(gain), 10, 20, 100)).toEqual(recipe(keep, gain));
  expect(withKept(recipe(gain), 0, 100, 100)).toEqual(recipe(gain));
  expect(withKept(recipe(other, gain), 10, 20, 100)).toEqual(recipe(keep, gain));
  expect(withKept(recipe(other, gain), 0, 100, 100)).toEqual(recipe(gain));
  expect(withKept(recipe(other, gain), 0, 99, 100).steps).toHaveLength(2);
  expect(withKept(recipe(other, gain), 1, 100, 100).steps).toHaveLength(2);
});
