import fc from 'fast-check';
import { collectChannels } from '@/core/pcm/pcm';
import { streamOf } from '@/core/pcm/source';
import { differenceTitle } from '@/core/recipe/difference';
import { parseRecipe, recipeKey, shapeAfter, walkRecipe } from '@/core/recipe/recipe';
import { recipeForMany, retimed } from '@/core/recipe/retime';
import { stepKinds } from '@/core/recipe/steps';
import { spanThrough, traceRecipe } from '@/core/recipe/trace';
import { plainTools, type Recipe, type Shape, type Step } from '@/core/recipe/types';
import { everyStep } from './everyStep';
import { applySteps, shaped, step } from './files';
import { noise } from './signals';

const recipe = (...steps: Step[]): Recipe => ({ version: 1, steps });
const stereo = (frames: number) => [noise(frames, 1, 0.3), noise(frames, 2, 0.2)];
const anyStep = fc.constantFrom(...everyStep);

test('every kind of step is tried, says what it is for, and its defaults fit', () => {
  expect(new Set(everyStep.map(({ kind }) => kind))).toEqual(
    new Set(stepKinds.map(({ kind }) => kind)),
  );
  const before: Shape = { rateHz: 44_100, channelCount: 2, frames: 44_100 };
  for (const kind of stepKinds) {
    expect(kind.hint).toMatch(/^[a-z].{10,}[^.]$/);
    const params = kind.defaults(before) as Record<string, unknown>;
    parseRecipe(recipe({ kind: kind.kind, on: true, params }));
    expect(kind.shape(before, params).frames).toBeGreaterThan(0);
    expect(kind.fields.every(({ name }) => name in kind.params.fields)).toBe(true);
  }
});

test('any recipe gives, from any frame on, what it gives from the beginning, of the stated length', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(anyStep, { minLength: 1, maxLength: 4 }),
      fc.integer({ min: 2_000, max: 7_000 }),
      fc.integer({ min: 50, max: 4_000 }),
      fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 3, maxLength: 3 }),
      async (steps, frames, blockFrames, starts) => {
        const before = { rateHz: 8_000, channelCount: 2, frames };
        let stated: Shape;
        try {
          stated = shapeAfter(recipe(...steps), before);
        } catch {
          return; // a span outside what an earlier step left
        }
        const source = await shaped(steps, stereo(frames), blockFrames);
        const whole = await collectChannels(streamOf(source));
        expect([source.rateHz, source.channelCount, source.frames]).toEqual([
          stated.rateHz,
          stated.channelCount,
          stated.frames,
        ]);
        expect(whole.map((channel) => channel.length)).toEqual(
          Array.from({ length: stated.channelCount }, () => stated.frames),
        );
        for (const share of starts) {
          const start = Math.floor(share * stated.frames);
          const rest = await collectChannels(streamOf(source, start));
          expect(rest).toEqual(whole.map((channel) => channel.slice(start)));
        }
      },
    ),
    { numRuns: 60 },
  );
});

test('a long sound at a fine ratio is entered exactly', async () => {
  const sound = [noise(300_000)];
  const source = await shaped([step('speed', { factor: 1.000_001 })], sound, 65_536);
  const whole = await collectChannels(streamOf(source));
  for (const start of [1, 99_999, 299_000]) {
    expect(await collectChannels(streamOf(source, start))).toEqual([whole[0]!.slice(start)]);
  }
});

describe('order matters where it should', () => {
  const differ = async (a: Step, b: Step) => {
    const [ab, ba] = [
      await applySteps([a, b], stereo(4_000)),
      await applySteps([b, a], stereo(4_000)),
    ];
    return JSON.stringify(ab.map(String)) !== JSON.stringify(ba.map(String));
  };
  test.each([
    [
      'gain',
      'normalise',
      step('gain', { gainDb: -6 }),
      step('normalise', { to: 'peak', target: -3 }),
    ],
    [
      'keep',
      'fade out',
      step('keep', { startFrame: 0, endFrame: 1_000 }),
      step('fade-out', { frames: 500, shape: 's' }),
    ],
    ['reverse', 'fade in', step('reverse'), step('fade-in', { frames: 500, shape: 's' })],
    ['keep', 'reverse', step('keep', { startFrame: 0, endFrame: 1_000 }), step('reverse')],
  ])('%s and %s', async (_, __, a, b) => expect(await differ(a, b)).toBe(true));
  test('swap and reverse do not mind', async () => {
    expect(await differ(step('channels', { mode: 'swap' }), step('reverse'))).toBe(false);
  });
});

describe('steps that only a newer Bijou knows', () => {
  const sparkle: Step = { kind: 'sparkle', on: true, params: { how: 'much', nested: [1] } };
  const before: Shape = { rateHz: 8_000, channelCount: 1, frames: 100 };

  test('are kept as they are, said to be unknown, and stop what would need them', async () => {
    const parsed = parseRecipe(JSON.parse(JSON.stringify(recipe(sparkle, step('reverse')))));
    expect(parsed.steps[0]).toEqual(sparkle);
    const [unknown, known] = walkRecipe(parsed, before);
    expect(unknown!.problem!.message).toMatch(/does not know/);
    expect(known!.problem).toBeNull();
    expect(() => shapeAfter(parsed, before)).toThrow(/does not know/);
    await expect(applySteps([sparkle], [noise(100)])).rejects.toThrow(/does not know/);
  });

  test('do no harm while they are off', async () => {
    const off = { ...sparkle, on: false };
    expect(shapeAfter(recipe(off), before)).toEqual(before);
    expect(await applySteps([off], [noise(100)])).toEqual([noise(100)]);
  });

  test('another version, or a flood, is no recipe', () => {
    const flood = recipe({ kind: 'x', on: true, params: { text: 'x'.repeat(200_000) } });
    for (const bad of [
      { version: 2, steps: [] },
      flood,
      { version: 1, steps: [{ kind: 'gain' }] },
    ]) {
      expect(() => parseRecipe(bad)).toThrow(/cannot be used/);
    }
  });
});

test('a span beyond the end is kept and explained; what follows is worked out without it', () => {
  const walked = walkRecipe(
    recipe(
      step('keep', { startFrame: 0, endFrame: 50 }),
      step('cut', { startFrame: 40, endFrame: 90 }),
      step('pad', { headFrames: 10, tailFrames: 0 }),
    ),
    { rateHz: 8_000, channelCount: 1, frames: 100 },
  );
  expect(walked.map(({ problem }) => problem?.code ?? null)).toEqual([null, 'bad-span', null]);
  expect(walked[1]!.step.params).toEqual({ startFrame: 40, endFrame: 90 });
  expect(walked[2]!.after.frames).toBe(60);
});

test('measured figures are asked for by sound and steps, and only once where they are known', async () => {
  const asked: string[] = [];
  const known = new Map<string, unknown>();
  const tools = {
    ...plainTools,
    async figure<Figure>(key: string, measure: () => Promise<Figure>): Promise<Figure> {
      asked.push(key);
      if (!known.has(key)) known.set(key, await measure());
      return known.get(key) as Figure;
    },
  };
  const steps = [step('gain', { gainDb: -6 }), step('normalise', { to: 'peak', target: -3 })];
  const once = await collectChannels(streamOf(await shaped(steps, stereo(500), 99, 8_000, tools)));
  const off = { ...step('reverse'), on: false };
  const again = [off, ...steps, step('polarity')];
  await shaped(again, stereo(500), 99, 8_000, tools);
  expect(asked).toEqual([recipeKey(recipe(...steps)), recipeKey(recipe(...steps))]);
  expect(known.size).toBe(1);
  expect(Math.max(...once.flatMap((x) => [...x].map(Math.abs)))).toBeCloseTo(10 ** (-3 / 20), 6);
});

describe('where frames go', () => {
  const before: Shape = { rateHz: 48_000, channelCount: 2, frames: 10_000 };
  const placing = everyStep.filter(
    ({ kind }) => stepKinds.find((k) => k.kind === kind)!.place !== undefined,
  );

  test('back is the way that forward went', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom(...placing), { maxLength: 4 }),
        fc.integer({ min: 0, max: 10_000 }),
        (steps, frame) => {
          const trace = traceRecipe(recipe(...steps), before);
          const at = trace.forward(frame);
          if (at !== null) expect(trace.back(at)).toBeCloseTo(frame, 5);
        },
      ),
    );
  });

  test('fades and blanks show as an envelope, what is cut away as none', () => {
    const { envelope } = traceRecipe(
      recipe(
        step('keep', { startFrame: 1_000, endFrame: 9_000 }),
        step('fade-in', { frames: 1_000, shape: 'linear' }),
        step('blank', { startFrame: 4_000, endFrame: 5_000 }),
      ),
      before,
    );
    expect(envelope(500)).toBeNull();
    expect(envelope(1_500)).toBeCloseTo(0.5, 6);
    expect(envelope(3_000)).toBe(1);
    expect(envelope(5_500)).toBe(0);
  });

  test('a marked span goes through a recipe, its lost ends move in', () => {
    const through = (startFrame: number, endFrame: number, ...steps: Step[]) => {
      const whole = recipe(...steps);
      const { frames } = shapeAfter(whole, before);
      return spanThrough(traceRecipe(whole, before), { startFrame, endFrame }, frames);
    };
    const keep = step('keep', { startFrame: 2_000, endFrame: 6_000 });
    expect(through(3_000, 4_000, keep)).toEqual({ startFrame: 1_000, endFrame: 2_000 });
    expect(through(0, 3_000, keep)).toEqual({ startFrame: 0, endFrame: 1_000 });
    expect(through(0, 1_500, keep)).toBeNull();
    expect(through(1_000, 3_000, step('reverse'))).toEqual({ startFrame: 7_000, endFrame: 9_000 });
    expect(through(0, 4_800, step('resample', { rateHz: 24_000 }))).toEqual({
      startFrame: 0,
      endFrame: 2_400,
    });
  });
});

describe('a recipe for many', () => {
  const fades = recipe(
    step('channels', { mode: 'mix' }),
    step('fade-in', { frames: 480, shape: 's' }),
    step('resample', { rateHz: 24_000 }),
    step('fade-out', { frames: 240, shape: 's' }),
  );

  test('keeps times at another rate, also behind a change of rate', () => {
    const frames = retimed(fades, 48_000, 96_000).steps.map(({ params }) => params['frames']);
    expect(frames).toEqual([undefined, 960, undefined, 240]);
    expect(retimed(fades, 48_000, 48_000)).toEqual(fades);
    // However short, a fade does not vanish.
    const short = recipe(step('fade-in', { frames: 1, shape: 's' }));
    expect(retimed(short, 96_000, 8_000).steps[0]!.params['frames']).toBe(1);
  });

  test('stands behind what a sound has, at the rate that this leaves, or in its place', () => {
    const own = recipe(step('resample', { rateHz: 96_000 }));
    const behind = recipeForMany(fades, { rateHz: 48_000, mode: 'behind' }, own, 44_100);
    expect(behind.steps).toHaveLength(5);
    expect(behind.steps[2]!.params['frames']).toBe(960);
    const instead = recipeForMany(fades, { rateHz: 48_000, mode: 'instead' }, own, 44_100);
    expect(instead.steps[1]!.params['frames']).toBe(441);
  });
});

test.each([
  [[], [step('reverse')], 'Add reverse'],
  [[step('reverse')], [], 'Take out reverse'],
  [[step('gain', { gainDb: 1 })], [step('gain', { gainDb: 2 })], 'Change gain'],
  [[step('reverse')], [{ ...step('reverse'), on: false }], 'Switch reverse off'],
  [[{ ...step('reverse'), on: false }], [step('reverse')], 'Switch reverse on'],
  [
    [step('reverse'), step('polarity')],
    [step('polarity'), step('reverse')],
    'Put steps in another order',
  ],
  [[], [step('fade-in', {}), step('fade-out', {})], 'Add fade in and fade out'],
  [[], [step('offset'), step('reverse'), step('polarity')], 'Add 3 steps'],
  [[step('reverse')], [step('polarity')], 'Change the recipe'],
  [[], [step('sparkle')], 'Add “sparkle”'],
] as [Step[], Step[], string][])('%j → %j is called %s', (before, after, title) => {
  expect(differenceTitle(recipe(...before), recipe(...after))).toBe(title);
});
