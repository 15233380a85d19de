import fc from 'fast-check';
import { fadeShapes } from '@/core/dsp/fade';
import type { Warning } from '@/core/formats/types';
import { measureLevels } from '@/core/measure/levels';
import { collectChannels } from '@/core/pcm/pcm';
import { parseRecipe, shapeAfter } from '@/core/recipe/recipe';
import { plainTools } from '@/core/recipe/types';
import { applySteps, rendered, step } from './files';
import { everyStep } from './everyStep';
import { errorDb, noise, sine } from './signals';

test.each(everyStep.map((one) => [JSON.stringify([one.kind, one.params]), one] as const))(
  '%s gives the shape that it states, whatever the blocks',
  async (_, one) => {
    parseRecipe({ version: 1, steps: [one] });
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 2_000, max: 6_000 }),
        fc.integer({ min: 7, max: 3_000 }),
        async (frames, blockFrames) => {
          const sound = [noise(frames, 1, 0.3), noise(frames, 2, 0.2)];
          const stated = shapeAfter(
            { version: 1, steps: [one] },
            { rateHz: 8_000, channelCount: 2, frames },
          );
          const whole = await applySteps([one], sound);
          expect([whole.length, whole[0]!.length]).toEqual([stated.channelCount, stated.frames]);
          const cut = await applySteps([one], sound, blockFrames);
          cut.forEach((channel, c) => {
            expect(channel.length).toBe(whole[c]!.length);
            // Whole-sound figures are sums, whose last bits depend on the blocks.
            channel.forEach((x, i) => {
              if (Math.abs(x - whole[c]![i]!) > 1e-6) throw new Error(`frame ${i} differs`);
            });
          });
        },
      ),
      { numRuns: 8 },
    );
  },
);

describe('fades', () => {
  test.each(Object.keys(fadeShapes))(
    '%s begins and ends at exactly 0 and never falls',
    async (shape) => {
      const ones = new Float32Array(1_000).fill(1);
      const [out] = await applySteps([step('fade-out', { frames: 300, shape })], [ones], 77);
      expect(out![999]).toBe(0);
      expect(out![699]).toBe(1);
      const [risen] = await applySteps([step('fade-in', { frames: 300, shape })], [ones], 77);
      expect(risen![0]).toBe(0);
      expect(risen![300]).toBe(1);
      for (let i = 1; i < 1_000; i++) {
        if (risen![i]! < risen![i - 1]!) throw new Error(`falls at ${i}`);
        expect(out![999 - i]).toBeCloseTo(risen![i]!, 6);
      }
    },
  );

  test('two equal-power fades of unlike sounds keep the power', () => {
    const { rise } = fadeShapes['equal-power'];
    for (const t of [0, 0.2, 0.5, 0.9]) expect(rise(t) ** 2 + rise(1 - t) ** 2).toBeCloseTo(1, 12);
  });

  test('a fade longer than the sound is refused', () => {
    const recipe = { version: 1 as const, steps: [step('fade-in', { frames: 99, shape: 's' })] };
    expect(() => shapeAfter(recipe, { rateHz: 8_000, channelCount: 1, frames: 98 })).toThrow(
      /longer/,
    );
  });
});

describe('levels', () => {
  const sound = () => [sine(48_000, 997, 96_000, 0.3), sine(48_000, 440, 96_000, 0.1)];
  const notes = async (params: object) => {
    const found: Warning[] = [];
    const tools = { ...plainTools, note: (warning: Warning) => found.push(warning) };
    const pcm = await rendered([step('normalise', { ...params })], sound(), 5_000, 48_000, tools);
    return { levels: await measureLevels(pcm), found };
  };

  test.each([
    [{ to: 'peak', target: -1 }, 'peakDbfs', -1],
    [{ to: 'true-peak', target: -2 }, 'truePeakDbtp', -2],
    [{ to: 'lufs', target: -16 }, 'lufs', -16],
  ] as const)('%j is met', async (params, measure, target) => {
    const { levels, found } = await notes(params);
    expect(levels[measure]).toBeCloseTo(target, 2);
    expect(found).toEqual([]);
  });

  test('a ceiling holds the level back, and says so', async () => {
    const { levels, found } = await notes({ to: 'lufs', target: -3, ceilingDbtp: -1 });
    expect(levels.truePeakDbtp).toBeCloseTo(-1, 2);
    expect(found).toMatchObject([{ code: 'held-back' }]);
  });

  test('silence has no level to normalise', async () => {
    const silence = [new Float32Array(48_000)];
    for (const to of ['peak', 'lufs']) {
      await expect(
        applySteps([step('normalise', { to, target: -1 })], silence),
      ).rejects.toMatchObject({
        code: 'not-legal',
      });
    }
  });

  test('a later step measures what the earlier ones left', async () => {
    const steps = [
      step('keep', { startFrame: 0, endFrame: 4_000 }),
      step('gain', { gainDb: -20 }),
      step('normalise', { to: 'peak', target: 0 }),
    ];
    const loudLater = sine(8_000, 300, 8_000, 0.2).map((x, i) => (i < 4_000 ? x : x * 4));
    const [out] = await applySteps(steps, [loudLater], 999);
    expect(Math.max(...out!)).toBeCloseTo(1, 5);
  });

  test('DC offset goes from each channel, polarity turns, twice is as before', async () => {
    const [a, b] = await applySteps(
      [step('offset')],
      [sine(8_000, 100, 8_000).map((x) => x + 0.1), noise(8_000)],
    );
    for (const channel of [a!, b!]) {
      expect(Math.abs(channel.reduce((sum, x) => sum + x, 0) / channel.length)).toBeLessThan(1e-6);
    }
    const original = noise(500);
    expect(await applySteps([step('polarity'), step('polarity')], [original])).toEqual([original]);
  });
});

describe('order and time', () => {
  test('backwards', async () => {
    const sound = [noise(70_001, 1), noise(70_001, 2)];
    const [left, right] = await applySteps([step('reverse')], sound, 1_003);
    expect([left!.reverse(), right!.reverse()]).toEqual(sound);
  });

  test('cut and insert are exact', async () => {
    const sound = noise(1_000);
    expect(
      await applySteps([step('cut', { startFrame: 100, endFrame: 400 })], [sound], 33),
    ).toEqual([Float32Array.from([...sound.slice(0, 100), ...sound.slice(400)])]);
    for (const atFrame of [0, 99, 500, 1_000]) {
      const [out] = await applySteps([step('silence', { atFrame, frames: 7 })], [sound], 100);
      expect(out).toEqual(
        Float32Array.from([
          ...sound.slice(0, atFrame),
          ...new Float32Array(7),
          ...sound.slice(atFrame),
        ]),
      );
    }
  });

  test('a crossfaded cut has no step at its seam', async () => {
    const up = Float32Array.from({ length: 1_000 }, (_, i) => (i < 500 ? 0.5 : -0.5));
    const params = { startFrame: 300, endFrame: 700 };
    const jump = (x: Float32Array) => Math.max(...x.slice(1).map((v, i) => Math.abs(v - x[i]!)));
    const [hard] = await applySteps([step('cut', params)], [up]);
    const [soft] = await applySteps([step('cut', { ...params, crossfadeFrames: 100 })], [up], 41);
    expect(jump(hard!)).toBeCloseTo(1, 5);
    expect(jump(soft!)).toBeLessThan(0.02);
  });

  test('speed changes pitch and length by the same factor', async () => {
    const [out] = await applySteps(
      [step('speed', { factor: 2 })],
      [sine(48_000, 500, 48_000)],
      5_000,
      48_000,
    );
    expect(out!.length).toBe(24_000);
    expect(errorDb(out!, sine(48_000, 1_000, 24_000), 500, 23_500)).toBeLessThan(-80);
  });

  test('a relabelled sound keeps every frame', async () => {
    const sound = noise(500);
    const pcm = await rendered([step('relabel', { rateHz: 22_050 })], [sound], 100, 44_100);
    expect(pcm.rateHz).toBe(22_050);
    expect(await collectChannels(pcm)).toEqual([sound]);
  });
});

describe('channels', () => {
  test('5.1 to stereo to mono is 5.1 to mono, but for the scale', async () => {
    const six = Array.from({ length: 6 }, (_, c) => noise(300, c + 1));
    const [direct] = await applySteps([step('channels', { mode: 'mix' })], six);
    const [both] = await applySteps(
      [step('channels', { mode: 'stereo' }), step('channels', { mode: 'mix' })],
      six,
    );
    const scale = direct![10]! / both![10]!;
    direct!.forEach((x, i) => expect(x).toBeCloseTo(both![i]! * scale, 5));
  });

  test('split: every channel alone is that channel', async () => {
    const six = Array.from({ length: 6 }, (_, c) => noise(300, c + 1));
    for (let channel = 1; channel <= 6; channel++) {
      expect(await applySteps([step('channels', { mode: 'keep', channel })], six)).toEqual([
        six[channel - 1],
      ]);
    }
    await expect(applySteps([step('channels', { mode: 'keep', channel: 7 })], six)).rejects.toThrow(
      /no channel 7/,
    );
  });
});
