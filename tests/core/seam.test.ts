import { clicks, measureSeam, scoreParts, type SeamFigures } from '@/core/loop/seam';
import { SeamMeter } from '@/core/loop/seam/meter';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { sourceFromChannels } from '@/core/pcm/source';
import { applyRecipe } from '@/core/recipe/recipe';
import { step } from './files';
import { noise, sine } from './signals';

const rateHz = 48_000;

async function seam(
  channels: Float32Array[],
  startFrame: number,
  endFrame: number,
  how: object = {},
): Promise<SeamFigures> {
  const params = { startFrame, endFrame, introFrames: 0, tailFrames: 0, ...how };
  const source = sourceFromChannels(channels, rateHz);
  const made = await applyRecipe({ version: 1, steps: [step('loop', params)] }, source);
  return measureSeam(made, { startFrame, endFrame });
}

/** Noise that is mostly low, as wind and surf are. */
function rumble(frames: number, seed: number): Float32Array {
  let low = 0;
  return noise(frames, seed).map((x) => (low = low * 0.99 + x * 0.1));
}

describe('the score of a seam', () => {
  test.each([80, 440, 480, 997, 3_000])(
    'orders a tone of %i Hz: whole, a quarter off, a step',
    async (hz) => {
      const tone = [sine(rateHz, hz, 3 * rateHz)];
      const period = rateHz / hz;
      const start = Math.round(period * 10);
      const at = (periods: number) => Math.round(period * (10 + periods));
      const whole = await seam(tone, start, at(60));
      const quarter = await seam(tone, start, at(60.25));
      const peak = Math.round(period * 10.25);
      const turned = await seam(tone, peak, Math.round(period * 70.75));
      // Where a period is no whole number of frames, up to half a frame is off.
      expect(whole.score).toBeGreaterThan(period % 1 === 0 ? 99 : 65);
      expect(whole.score).toBeGreaterThan(quarter.score);
      expect(quarter.score).toBeGreaterThan(turned.score);
      expect([whole, quarter, turned].map(clicks)).toEqual([false, true, true]);
    },
  );

  test.each([1, 2, 3, 4])(
    'is better for a crossfaded bed than for the same cut hard (%i)',
    async (seed) => {
      const bed = [rumble(rateHz * 6, seed), rumble(rateHz * 6, seed + 10)];
      const cut = await seam(bed, rateHz, 5 * rateHz);
      const how = { seam: 'crossfade', crossfadeFrames: 9_600, curve: 'equal-power' };
      const faded = await seam(bed, rateHz, 5 * rateHz, how);
      expect(faded.score).toBeGreaterThan(cut.score);
      expect(clicks(faded)).toBe(false);
    },
  );

  test('does not take hiss for clicks', async () => {
    for (let seed = 1; seed < 20; seed++) {
      const { score } = await seam([noise(rateHz * 3, seed)], 1_000, 2 * rateHz);
      expect(score).toBeGreaterThan(85);
    }
  });

  test('is what its parts leave, and each says why', async () => {
    const figures = await seam([sine(rateHz, 440, rateHz)], 0, 30_027);
    const left = scoreParts.reduce((share, part) => share * part.keeps(figures), 100);
    expect(figures.score).toBeCloseTo(left, 0);
    for (const part of scoreParts) {
      expect(part.sentence).toMatch(/^How .*\.$/);
      expect(part.value(figures)).toMatch(/\d|none/);
      expect(part.keeps(figures)).toBeGreaterThanOrEqual(0);
      expect(part.keeps(figures)).toBeLessThanOrEqual(1);
    }
  });
});

describe('the figures of a seam', () => {
  test('level: a jump of so much against the level around', async () => {
    const square = new Float32Array(rateHz).fill(-0.25);
    square.fill(0.25, rateHz / 2);
    // Half a unit between frames, where the level is a quarter.
    expect(await seam([square], 100, rateHz - 100)).toMatchObject({ levelStepDb: 6.02 });
  });

  test('slope: a bend of so much a frame', async () => {
    const peak = 100 / rateHz;
    const triangle = Float32Array.from({ length: rateHz }, (_, i) => {
      const x = (i * peak) % 1;
      return 2 * Math.abs(2 * x - 1) - 1;
    });
    // From falling to rising in the valley: twice 4 × 100 ÷ 48,000 a frame, at a level of 1 ÷ √3.
    const { slopeStepDb, levelStepDb } = await seam([triangle], 240, 480 * 60 + 240);
    // The bend lies on a frame, half a frame off the middle of the seam.
    expect(levelStepDb).toBeLessThan(-30);
    expect(slopeStepDb).toBeCloseTo(20 * Math.log10((8 * peak) / Math.sqrt(1 / 3)), 0);
  });

  test('loudness: as many LU as one side is louder, to both sides', async () => {
    const tone = sine(rateHz, 1_000, 4 * rateHz).map((x, i) => (i < 2 * rateHz ? x : x / 2));
    const down = await seam([tone], rateHz / 2, 3.5 * rateHz);
    expect(down.loudnessDifferenceLu).toBeCloseTo(6.02, 1);
    const up = await seam([tone.reverse()], rateHz / 2, 3.5 * rateHz);
    expect(up.loudnessDifferenceLu).toBeCloseTo(-6.02, 1);
  });

  test('timbre: nothing between alike sides, nearly all between a low and a high tone', async () => {
    const alike = await seam([noise(4 * rateHz)], rateHz, 3 * rateHz);
    expect(alike.timbreDifference).toBeLessThan(0.05);
    const low = sine(rateHz, 100, 2 * rateHz);
    const high = sine(rateHz, 6_000, 2 * rateHz);
    const unlike = await seam([Float32Array.from([...low, ...high])], 0, 4 * rateHz);
    expect(unlike.timbreDifference).toBeGreaterThan(0.7);
    expect(unlike.timbreDifference).toBeLessThanOrEqual(1);
  });

  test('the channel that jumps farthest counts', async () => {
    const still = sine(rateHz, 480, rateHz);
    const jumping = noise(rateHz, 4, 0.01).map((x, i) => x + (i < rateHz / 2 ? -0.3 : 0.3));
    const { levelStepDb } = await seam([still, jumping], 4_800, rateHz - 4_800);
    expect(levelStepDb).toBeCloseTo(6, 0);
  });

  test('of silence, and of a loop shorter than what is measured, are figures as well', async () => {
    const silence = [new Float32Array(rateHz)];
    expect(await seam(silence, 0, rateHz)).toEqual({
      score: 100,
      levelStepDb: -144,
      slopeStepDb: -144,
      loudnessDifferenceLu: 0,
      timbreDifference: 0,
      dipDb: 0,
    });
    const tiny = await seam([sine(rateHz, 480, rateHz)], 1_000, 1_100);
    expect(tiny.score).toBeGreaterThan(90);
    await expect(seam(silence, 0, 31)).rejects.toThrow(/too short/);
    await expect(seam(silence, 0, rateHz + 1)).rejects.toThrow(/outside the sound/);
  });
});

test('is measured just so while a file is read, however it is cut into blocks', async () => {
  const sound = [rumble(3 * rateHz, 5), rumble(3 * rateHz, 6)];
  for (const [startFrame, endFrame] of [
    [1_000, 100_000],
    [20_000, 140_001],
    [500, 1_200],
  ] as const) {
    const loop = { startFrame, endFrame };
    const wanted = await measureSeam(sourceFromChannels(sound, rateHz), loop);
    for (const blockFrames of [997, 65_536]) {
      const meter = new SeamMeter({ rateHz, channelCount: 2 }, loop);
      for await (const block of pcmFromChannels(sound, rateHz, { blockFrames }).blocks)
        meter.push(block);
      expect(await meter.result()).toEqual(wanted);
    }
  }
  const back = new SeamMeter(
    { rateHz, channelCount: 2 },
    { startFrame: 0, endFrame: 100, isBackAndForth: true },
  );
  back.push(sound);
  expect(await back.result()).toBeNull();
});
