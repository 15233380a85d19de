import fc from 'fast-check';
import { listeningSteps, usualListening } from '@/core/loop/listening';
import { partsOf, pieceRecipe, type LoopPiece } from '@/core/loop/parts';
import { noMarks } from '@/core/marks';
import { marksAfter, shapeAfter } from '@/core/recipe/recipe';
import { crossfadeRoom, loop as loopKind } from '@/core/recipe/steps/loop';
import type { Recipe, Step } from '@/core/recipe/types';
import { applySteps, step } from './files';
import { noise, sine } from './signals';

const span = (startFrame: number, endFrame: number) => ({ startFrame, endFrame });
const loop = (startFrame: number, endFrame: number, more: object = {}) =>
  step('loop', { ...span(startFrame, endFrame), introFrames: 0, tailFrames: 0, ...more });
const mono = (frames: number, rateHz = 8_000) => ({ rateHz, channelCount: 1, frames });
const recipe = (...steps: Step[]): Recipe => ({ version: 1, steps });
const marksOf = (steps: Step[], frames: number, rateHz = 8_000) =>
  marksAfter({ version: 1, steps }, mono(frames, rateHz), noMarks);
const ramp = (frames: number) => Float32Array.from({ length: frames }, (_, i) => i / 1_000);

/** One piece of a loop, as an engine gets it. */
async function piece(steps: Step[], sound: Float32Array, name: LoopPiece): Promise<Float32Array> {
  const { steps: whole } = pieceRecipe(recipe(...steps), mono(sound.length), noMarks, name);
  return (await applySteps(whole, [sound]))[0]!;
}

describe('the tail under the start of every repeat', () => {
  const tail = { introFrames: 40, tailFrames: 30, seam: 'tail', tailDb: -6 };

  test('lies behind a dry first pass, to the bit, and everything else stays', async () => {
    const sound = noise(300);
    const [made] = await applySteps([loop(100, 200, tail)], [sound]);
    const gain = 10 ** (-6 / 20);
    expect(made).toHaveLength(400);
    expect(made!.subarray(0, 200)).toEqual(sound.subarray(0, 200));
    const repeat = sound.slice(100, 200);
    for (let i = 0; i < 30; i++) repeat[i] = Math.fround(sound[100 + i]! + sound[200 + i]! * gain);
    expect(made!.subarray(200, 300)).toEqual(repeat);
    expect(made!.subarray(300)).toEqual(sound.subarray(200));
  });

  test('leaves marks at the repeat, with intro and first pass in front of it', () => {
    expect(marksOf([loop(100, 200, tail)], 300)).toMatchObject({
      loop: span(200, 300),
      first: span(100, 200),
      intro: span(60, 100),
      tail: span(300, 330),
    });
    // Both passes stay equally long at a rate at which they are no whole frames.
    const {
      loop: at,
      first,
      intro,
    } = marksOf([loop(100, 200, tail), step('resample', { rateHz: 11_025 })], 300);
    expect([at, first, intro]).toEqual([span(276, 414), span(138, 276), span(83, 138)]);
  });

  test('makes what plays like the sound itself: dry once, then every pass with what rings', async () => {
    // A ping that rings into the next pass.
    const ping = (at: number) =>
      Float32Array.from({ length: 700 }, (_, i) =>
        i < at ? 0 : Math.exp(-(i - at) / 60) * Math.sin((i - at) / 3),
      );
    const steps = [loop(0, 200, { tailFrames: 200, seam: 'tail', tailDb: 0 })];
    const sound = ping(120);
    const [first, again] = [
      await piece(steps, sound, 'first'),
      await piece(steps, sound, 'repeat'),
    ];
    const played = [...first, ...again];
    const both = ping(320).map((x, i) => x + sound[i]!);
    played.forEach((x, i) => expect(x).toBeCloseTo(both[i]!, 6));
  });
});

describe('a crossfade', () => {
  test('leads to exactly what lies in front of the start, its length stays', async () => {
    const sound = ramp(100);
    const [made] = await applySteps(
      [loop(40, 90, { seam: 'crossfade', crossfadeFrames: 4, curve: 'linear' })],
      [sound],
    );
    expect(made).toHaveLength(100);
    // 86 … 89 fade into 36 … 39, in quarters; the last one is the very frame in front of the start.
    const mixed = [86, 87, 88, 89].map((x, i) => (x * (3 - i) + (x - 50) * (1 + i)) / 4);
    expect(made![89]).toBe(sound[39]);
    expect([...made!.subarray(86, 90)].map((x) => x * 1_000)).toEqual(
      mixed.map((x) => expect.closeTo(x, 3) as number),
    );
    expect(made!.subarray(0, 86)).toEqual(sound.subarray(0, 86));
    expect(made!.subarray(90)).toEqual(sound.subarray(90));
  });

  test('keeps the power of unlike sides with equal power, and of alike ones by correlation', async () => {
    const power = (samples: Float32Array) =>
      samples.reduce((sum, x) => sum + x * x, 0) / samples.length;
    const made = async (sound: Float32Array, curve: string) => {
      const steps = [loop(8_000, 24_000, { seam: 'crossfade', crossfadeFrames: 8_000, curve })];
      const [out] = await applySteps(steps, [sound]);
      return 10 * Math.log10(power(out!.subarray(19_000, 21_000)) / power(sound));
    };
    const hiss = noise(32_000, 3);
    const tone = sine(8_000, 200, 32_000);
    expect(await made(hiss, 'equal-power')).toBeCloseTo(0, 0);
    expect(await made(hiss, 'correlation')).toBeCloseTo(0, 0);
    expect(await made(hiss, 'linear')).toBeCloseTo(-3, 0);
    expect(await made(tone, 'correlation')).toBeCloseTo(0, 2);
    expect(await made(tone, 'linear')).toBeCloseTo(0, 2);
    expect(await made(tone, 'equal-power')).toBeCloseTo(3, 1);
  });

  test('begins the loop later where too little lies in front of it', () => {
    expect(crossfadeRoom(span(0, 1_000), 200)).toEqual({ startFrame: 200, crossfadeFrames: 200 });
    expect(crossfadeRoom(span(300, 1_000), 200)).toEqual({ startFrame: 300, crossfadeFrames: 200 });
    expect(crossfadeRoom(span(0, 1_000), 9_000)).toEqual({ startFrame: 500, crossfadeFrames: 500 });
    expect(crossfadeRoom(span(900, 1_000), 500)).toEqual({ startFrame: 900, crossfadeFrames: 100 });
    // In a form: whoever moves an edge gets a shorter crossfade, whoever asks for a longer one a later start.
    const params = { ...loop(400, 1_000).params, seam: 'crossfade', crossfadeFrames: 300 } as never;
    const along = (change: object, name: string) =>
      loopKind.along!({ ...(params as object), ...change } as never, name);
    expect(along({ startFrame: 100 }, 'startFrame').crossfadeFrames).toBe(100);
    expect(along({ crossfadeFrames: 450 }, 'crossfadeFrames').startFrame).toBe(450);
  });

  test('of any loop that it makes room for can be done', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 5_000 }),
        fc.integer({ min: 32, max: 5_000 }),
        fc.integer({ min: 0, max: 20_000 }),
        (startFrame, length, frames) => {
          const endFrame = startFrame + length;
          fc.pre(endFrame >= 64);
          const room = crossfadeRoom({ startFrame, endFrame }, frames);
          const made = loop(room.startFrame, endFrame, { ...room, seam: 'crossfade' });
          expect(shapeAfter(recipe(made), mono(endFrame)).frames).toBe(endFrame);
        },
      ),
    );
  });
});

describe('pieces of a loop', () => {
  test.each<[string, object]>([
    ['cut hard', {}],
    ['with a crossfade', { seam: 'crossfade', crossfadeFrames: 50, curve: 'equal-power' }],
    ['with its tail', { seam: 'tail', tailDb: 0 }],
  ])('%s add up to the whole, to the bit', async (_, how) => {
    const sound = noise(1_000, 5);
    const steps = [loop(200, 700, { introFrames: 200, tailFrames: 100, ...how })];
    const [whole] = await applySteps(steps, [sound]);
    const names =
      'seam' in how && how.seam === 'tail' ? ['intro', 'first', 'repeat'] : ['intro', 'repeat'];
    const parts = await Promise.all(names.map((name) => piece(steps, sound, name as LoopPiece)));
    const joined = Float32Array.from(parts.flatMap((part) => [...part]));
    expect(joined).toEqual(whole!.subarray(0, joined.length));
    expect(joined).toHaveLength(200 + 500 * (names.length - 1));
  });

  test('there is an intro only where one is marked, and none at all without a loop', () => {
    expect(partsOf(marksOf([loop(200, 700)], 1_000))).toMatchObject({ intro: null, tail: null });
    const intro = () => pieceRecipe(recipe(loop(200, 700)), mono(1_000), noMarks, 'intro');
    expect(intro).toThrow(/has no intro/);
    expect(() => partsOf(marksOf([], 1_000))).toThrow(/No loop is marked/);
    const back = {
      ...marksOf([], 1_000),
      loop: { ...span(0, 500), isBackAndForth: true as const },
    };
    expect(() => partsOf(back)).toThrow(/back and forth/);
  });

  test('stay whole and together at any rate', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 40_000 }),
        fc.integer({ min: 100, max: 40_000 }),
        fc.constantFrom(8_000, 11_025, 22_050, 44_100, 96_000),
        fc.boolean(),
        (introFrames, length, rateHz, hasTail) => {
          const end = introFrames + length;
          const how = hasTail ? { tailFrames: 50, seam: 'tail' } : {};
          const marks = marksOf(
            [loop(introFrames, end, { introFrames, ...how }), step('resample', { rateHz })],
            end + 50,
            48_000,
          );
          const { intro, first, repeat } = partsOf(marks);
          const whole = Math.round((length * rateHz) / 48_000);
          expect(Math.abs(repeat.endFrame - repeat.startFrame - whole)).toBeLessThanOrEqual(0);
          expect(first.endFrame - first.startFrame).toBe(whole);
          if (intro) expect(intro.endFrame).toBe(first.startFrame);
          if (hasTail) expect(first.endFrame).toBe(repeat.startFrame);
        },
      ),
    );
  });
});

describe('a listening copy', () => {
  const copy = async (steps: Step[], sound: Float32Array, wish: object) => {
    const marks = marksOf(steps, sound.length);
    const made = listeningSteps(marks, mono(0), { ...usualListening, ...wish });
    return (await applySteps([...steps, ...made], [sound]))[0]!;
  };
  const none = { silenceBeforeSeconds: 0, silenceBehindSeconds: 0 };

  test('is intro and passes, then a fade on the last one that ends at exactly 0', async () => {
    const sound = noise(60_000, 9);
    const steps = [loop(10_000, 50_000, { introFrames: 4_000, tailFrames: 5_000, seam: 'tail' })];
    const wish = { times: 3, fadeAfterSeconds: 2, fadeSeconds: 1, ...none };
    const made = await copy(steps, sound, wish);
    expect(made).toHaveLength(4_000 + 2 * 40_000 + 16_000 + 8_000);
    const [whole] = await applySteps(steps, [sound]);
    // Dry, then twice with the tail.
    expect(made.subarray(0, 44_000)).toEqual(sound.subarray(6_000, 50_000));
    expect(made.subarray(44_000, 84_000)).toEqual(whole!.subarray(50_000, 90_000));
    expect(made.subarray(84_000, 100_000)).toEqual(whole!.subarray(50_000, 66_000));
    expect(Math.abs(made.at(-2)!)).toBeLessThan(1e-4);
    expect(Object.is(made.at(-1), 0)).toBe(true);
  });

  test('has its silence, and fades earlier where the last pass is short', async () => {
    const sound = noise(20_000, 2);
    const made = await copy([loop(0, 16_000)], sound, { times: 2 });
    expect(made).toHaveLength(120 + 2 * 16_000 + 16_000);
    expect(made.subarray(0, 120)).toEqual(new Float32Array(120));
    expect(made.subarray(120, 16_120)).toEqual(sound.subarray(0, 16_000));
    expect(made.subarray(-16_001).every((x) => x === 0)).toBe(true);
  });

  test('of any number of passes is as many copies of the loop', async () => {
    const sound = sine(8_000, 440, 2_000);
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 0, max: 900 }),
        fc.integer({ min: 40, max: 1_000 }),
        fc.integer({ min: 1, max: 9 }),
        fc.boolean(),
        async (start, length, times, hasTail) => {
          const how = hasTail ? { tailFrames: Math.min(length, 100), seam: 'tail' } : {};
          const steps = [loop(start, start + length, how)];
          const wish = { times, fadeAfterSeconds: 60, fadeSeconds: 1 / 8_000, ...none };
          const made = await copy(steps, sound, wish);
          const first = await piece(steps, sound, 'first');
          const again = await piece(steps, sound, 'repeat');
          const copies = [...first, ...Array.from({ length: times - 1 }, () => [...again]).flat()];
          copies[copies.length - 1] = 0;
          expect([...made]).toEqual(copies);
        },
      ),
      { numRuns: 40 },
    );
  });
});

describe('what runs back and forth', () => {
  test('is unrolled once each way, without the frames at which it turns round', async () => {
    const sound = ramp(100);
    const [made] = await applySteps([step('unroll', span(20, 60))], [sound]);
    const at = (from: number, to: number) =>
      [...made!.subarray(from, to)].map((x) => Math.round(x * 1_000));
    expect(made).toHaveLength(138);
    expect(at(56, 64)).toEqual([56, 57, 58, 59, 58, 57, 56, 55]);
    expect(at(94, 100)).toEqual([24, 23, 22, 21, 60, 61]);
    expect(marksOf([step('unroll', span(20, 60))], 100).loop).toEqual(span(20, 98));
  });
});

describe('what cannot be done says why', () => {
  const frames = 1_000;
  test.each<[string, Step, RegExp]>([
    ['shorter than 32 frames', loop(100, 131), /31 frames is too short: it has at least 32/],
    ['end before start', loop(200, 100), /ends before it begins/],
    [
      'a crossfade without room in front',
      loop(50, 500, { seam: 'crossfade', crossfadeFrames: 51 }),
      /in front of the loop: 50 frames/,
    ],
    [
      'a crossfade longer than the loop',
      loop(500, 600, { seam: 'crossfade', crossfadeFrames: 101 }),
      /longer than the loop: 100 frames/,
    ],
    [
      'a tail longer than the loop',
      loop(500, 600, { seam: 'tail', tailFrames: 101 }),
      /longer than the loop, 100 frames .*second repeat/,
    ],
    ['no tail', loop(500, 600, { seam: 'tail' }), /no tail to put under the start/],
    ['repeats without end', step('repeat', { ...span(0, 1_000), times: 1_001 }), /far too long/],
  ])('%s', (_, made, message) => {
    const shape = mono(made.kind === 'repeat' ? 10 ** 12 : frames);
    const params = made.kind === 'repeat' ? { ...span(0, 10 ** 12), times: 1_000 } : made.params;
    expect(() => shapeAfter(recipe({ ...made, params }), shape)).toThrow(message);
  });
});
