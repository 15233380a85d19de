import { pink } from '@/core/compare/reference/pinkNoise';
import { makeReference } from '@/core/compare/reference';
import { madeVoice } from '@/core/compare/reference/voice';
import { fidelity, type Fidelity } from '@/core/compare/fidelity';
import { mixdownLossOf } from '@/core/compare/mixdown';
import { resampled } from '@/core/dsp/resample';
import { sourceFromChannels } from '@/core/pcm/source';
import { plainTools, type Recipe } from '@/core/recipe/types';
import { keepersWaltz } from '../../../tools/demo/sounds/keepersWaltz';
import { decode, encode, step } from '../files';
import { noise, sine } from '../signals';
import { compared, lowPassed, withNoise } from './signals';

const RATE = 48_000;
const music = keepersWaltz.make(RATE).map((channel) => channel.slice(RATE, 4 * RATE));
const pinkNoise = pink(2 * RATE, RATE, 11);

const coded = async (source: Float32Array[], writer: string, settings: object, rateHz = RATE) => {
  const { channels, header } = await decode(await encode(source, rateHz, writer, settings));
  return compared(source, channels, rateHz, header.sampleRateHz);
};

/** Each is graded lower than the one before. */
function expectFalling(found: readonly Fidelity[]): void {
  const grades = found.map(({ grade }) => grade);
  expect(new Set(grades).size).toBe(grades.length);
  expect(grades).toEqual([...grades].sort((a, b) => b - a));
}

test('equal samples grade 0.000, and nothing differs', async () => {
  const found = await compared(music, music, RATE);
  expect(found).toMatchObject({ grade: 0, nmrDb: null, noiseDb: null, disturbed: 0, worst: [] });
  expect(Object.is(found.grade, 0)).toBe(true);
  expect(found.likeness).toBeCloseTo(1, 9);
  expect(found.bandwidthHz).toBe(found.sourceBandwidthHz);
});

test('noise from −50 to −10 dB below music grades worse at each step, and reads its own level', async () => {
  const hiss = noise(music[0]!.length, 9);
  const found: Fidelity[] = [];
  for (const db of [-50, -40, -30, -20, -10]) {
    const one = await compared(
      music,
      music.map((channel) => withNoise(channel, hiss, db)),
      RATE,
    );
    expect(one.noiseDb).toBeCloseTo(db, 1);
    found.push(one);
  }
  expectFalling(found);
});

test('low-pass at 16, 12, 8, 4 kHz on pink noise grades worse at each, and the bandwidth is found', async () => {
  const found: Fidelity[] = [];
  for (const hz of [16_000, 12_000, 8_000, 4_000]) {
    const one = await compared([pinkNoise], [lowPassed(pinkNoise, hz, RATE)], RATE);
    expect(Math.abs(one.bandwidthHz! - hz)).toBeLessThan(0.03 * hz);
    found.push(one);
  }
  expectFalling(found);
});

test.each([
  ['music', music],
  ['noise', [pinkNoise]],
])('dithered 24, 16, 12 and 8 bits of %s grade worse at each', async (_, source) => {
  const found: Fidelity[] = [];
  for (const bits of [24, 16, 8]) found.push(await coded(source, 'wav', { bits }));
  // No format has 12 bits: the same dither at that depth.
  const step = 2 / 2 ** 12;
  const dither = noise(source[0]!.length, 21, step / 2).map(
    (x, i) => x + noise(1, 31 + i, step / 2)[0]!,
  );
  const twelve = source.map((c) => c.map((x, i) => Math.round((x + dither[i]!) / step) * step));
  found.splice(2, 0, await compared(source, twelve, RATE));
  expectFalling(found);
});

test('ADPCM is heard on a pure tone more than in noise, and adds tones to it', async () => {
  const tone = await coded(makeReference('tone', { seconds: 3 }), 'wav-ima-adpcm', {});
  const hiss = await coded([pinkNoise], 'wav-ima-adpcm', {});
  expect(tone.nmrDb!).toBeGreaterThan(hiss.nmrDb! + 20);
  expect(tone.addedTones!.length).toBeGreaterThan(0);
  expect(hiss.addedTones).toBeNull();
});

test('tones that were not there are found with their level', async () => {
  const frames = 2 * RATE;
  const [low, high] = [sine(RATE, 1_000, frames, 0.2), sine(RATE, 1_600, frames, 0.2)];
  const source = low.map((x, i) => x + high[i]!);
  const product = sine(RATE, 2_200, frames, 0.2 * 10 ** (-50 / 20));
  const found = await compared([source], [source.map((x, i) => x + product[i]!)], RATE);
  expect(found.addedTones).toHaveLength(1);
  expect(Math.abs(found.addedTones![0]!.hz - 2_200)).toBeLessThan(6);
  expect(found.addedTones![0]!.db).toBeCloseTo(-50, 0);
  expect((await compared([source], [source], RATE)).addedTones).toEqual([]);
});

test('pre-echo reads the level and the length of what stands before a click', async () => {
  const [clicks] = makeReference('clicks', { seconds: 2 });
  const source = clicks!;
  const at = source.findIndex((x) => x !== 0);
  const early = source.slice();
  const added = sine(RATE, 3_000, 0.012 * RATE, 0.005);
  early.set(added, at - added.length);
  const found = await compared([source], [early], RATE);
  const { worst, beginnings } = found.preEcho!;
  expect(beginnings).toBe(8);
  expect(Math.abs(worst.seconds - at / RATE)).toBeLessThan(0.002);
  expect([12, 13]).toContain(worst.ms);
  // 0.005 of a sine against one sample of 0.5 in a millisecond of 48.
  expect(worst.db).toBeCloseTo(10 * Math.log10(0.005 ** 2 / 2 / (0.5 ** 2 / 48)), 0);
  expect((await compared([source], [source], RATE)).preEcho!.worst.ms).toBe(0);
});

test('level, image, polarity, DC and true peak are told', async () => {
  const [left] = music;
  const stereo = [left!, noise(left!.length, 4, 0.1)];
  const mixed = stereo[0]!.map((x, i) => (x + stereo[1]![i]!) / 2 + 0.01);
  const found = await compared(stereo, [mixed, mixed], RATE);
  expect(Math.abs(found.levels.source.correlation!)).toBeLessThan(0.05);
  expect(found.levels.decoded.correlation).toBeCloseTo(1, 6);
  expect(found.levels.decoded.dcOffset - found.levels.source.dcOffset).toBeCloseTo(0.01, 3);
  const turned = await compared(
    music,
    music.map((channel) => channel.map((x) => -2 * x)),
    RATE,
  );
  expect(turned.likeness).toBeCloseTo(-1, 6);
  expect(turned.noiseDb).toBeCloseTo(20 * Math.log10(3), 3);
  expect(turned.levels.decoded.rmsDbfs! - turned.levels.source.rmsDbfs!).toBeCloseTo(6.02, 2);
});

describe('alignment to the frame', () => {
  const lossy: [string, object, number][] = [
    ['mp3', { kbps: 128 }, 44_100],
    ['mp3', { kbps: 64 }, 22_050],
    ['ogg', { quality: 4 }, 44_100],
    ['ogg', { quality: 4 }, 37_800],
    ['ogg-opus', { kbps: 128 }, 48_000],
    ['webm', { kbps: 128 }, 48_000],
    ['m4a', { kbps: 128 }, 44_100],
    ['m4a', { kbps: 128 }, 32_000],
    ['wav-ima-adpcm', {}, 22_050],
  ];
  test.each(lossy)(
    '%s with %j at %d Hz has its cross-correlation peak at 0',
    async (writer, settings, rate) => {
      const source = [madeVoice(rate, rate, 110), pink(rate, rate, 5)];
      const { channels } = await decode(await encode(source, rate, writer, settings));
      for (const c of [0, 1]) {
        const at = (lag: number) => {
          let sum = 0;
          for (let i = 100; i < rate - 100; i++) sum += source[c]![i]! * channels[c]![i + lag]!;
          return sum;
        };
        const lags = Array.from({ length: 65 }, (_, i) => i - 32);
        const best = lags.reduce((top, lag) => (at(lag) > at(top) ? lag : top), 0);
        expect(best).toBe(0);
      }
    },
  );

  test.each([8_000, 22_050, 44_100, 96_000])('lossless at %d Hz has no error', async (rate) => {
    const source = [pink(rate, rate, 6)];
    const grid = source.map((channel) => channel.map((x) => Math.round(x * 2 ** 15) / 2 ** 15));
    for (const writer of ['wav', 'flac', 'aiff']) {
      const bytes = await encode(grid, rate, writer, { bits: 16 }, 16);
      const found = await compared(grid, (await decode(bytes)).channels, rate);
      expect(found).toMatchObject({ grade: 0, noiseDb: null, likeness: expect.closeTo(1, 9) });
    }
  });

  test('another rate is brought back without a shift', async () => {
    const source = lowPassed(pink(2 * 44_100, 44_100, 8), 15_000, 44_100);
    const found = await coded([source], 'ogg-opus', { kbps: 160 }, 48_000);
    expect(found.likeness).toBeGreaterThan(0.8);
  });
});

test('medians over ten sounds at twice the bit rate are not worse, and MP3 keeps more of the band', async () => {
  const sounds = [
    ...['pink-noise', 'tone', 'two-tones', 'sweep', 'clicks', 'bursts', 'voice', 'chord'].map(
      (id) => makeReference(id, { seconds: 0.4 }),
    ),
    music.map((channel) => channel.slice(0, 0.4 * RATE)),
    [pinkNoise.slice(0, 0.4 * RATE).map((x, i) => x * (i % 9_600 < 4_800 ? 1 : 0.1))],
  ];
  const ladders: [string, object[]][] = [
    ['mp3', [{ kbps: 64 }, { kbps: 128 }]],
    ['ogg', [{ quality: 0 }, { quality: 5 }]],
    ['ogg-opus', [{ kbps: 48 }, { kbps: 96 }]],
    ['m4a', [{ kbps: 64 }, { kbps: 128 }]],
  ];
  for (const [writer, steps] of ladders) {
    const medians: number[] = [];
    for (const settings of steps) {
      const grades: number[] = [];
      for (const sound of sounds) grades.push((await coded(sound, writer, settings)).grade);
      medians.push(grades.sort((a, b) => a - b)[5]!);
    }
    expect(medians).toEqual([...medians].sort((a, b) => a - b));
  }
  const [low, high] = [
    await coded([pinkNoise], 'mp3', { kbps: 64 }),
    await coded([pinkNoise], 'mp3', { kbps: 256 }),
  ];
  expect(low.bandwidthHz!).toBeLessThan(high.bandwidthHz! - 2_000);
});

test('what is no signal at all is compared as well', async () => {
  const silent = [new Float32Array(RATE)];
  expect(await compared(silent, silent, RATE)).toMatchObject({
    ...{ grade: 0, noiseDb: null, likeness: null, bandwidthHz: null, addedTones: null },
    preEcho: null,
  });
  const ten = [noise(10, 2)];
  expect((await compared(ten, ten, RATE)).grade).toBe(0);
  const short = await compared(ten, [ten[0]!.slice(0, 5)], RATE);
  expect(short.grade).toBeLessThan(0);
  await expect(compared(music, ten, RATE)).rejects.toThrow('numbers of channels');
});

describe('what is gone weighs as much as what is added', () => {
  const white = noise(4 * 44_100, 1, 0.3);
  const of = (sound: Float32Array) => sourceFromChannels([sound], 44_100);

  test('white noise cut at 4 kHz, and all of it', async () => {
    const cut = resampled(resampled(of(white), 8_000), 44_100);
    const found = await fidelity(of(white), cut);
    expect(found.grade).toBeLessThan(-2.8);
    expect(found.missing).toBeGreaterThan(0.3);
    const none = await fidelity(of(white), of(new Float32Array(white.length)));
    expect(none.grade).toBeLessThan(-3.8);
    expect(none.missing).toBeCloseTo(1, 3);
  });

  test('a sound at −80 dBFS that comes out silent is worse than one of 16 bits, and said to be hardly heard', async () => {
    const quiet = noise(2 * 44_100, 4, 1e-4);
    const silent = await fidelity(of(quiet), of(new Float32Array(quiet.length)));
    const coarse = await fidelity(of(quiet), of(quiet.map((x) => Math.round(x * 32_768) / 32_768)));
    expect(silent.grade).toBeLessThan(-3);
    expect(coarse.grade).toBeGreaterThan(-1);
    expect(silent.unheard).toBeGreaterThan(0.9);
    expect((await fidelity(of(white), of(white))).unheard).toBe(0);
  });

  test('channels that cancel when they are mixed', async () => {
    const rest = of(white.map((x) => x * 1e-4));
    const found = await fidelity(rest, rest, { mixdownLossDb: -80 });
    expect(found.grade).toBeLessThan(-3);
    // What has nothing in common loses 3 dB, which is no fault.
    expect((await fidelity(rest, rest, { mixdownLossDb: -3 })).grade).toBe(0);
    const mix: Recipe = { version: 1, steps: [step('channels', { mode: 'mix' })] };
    const lossOf = (left: Float32Array, right: Float32Array, recipe = mix) =>
      mixdownLossOf(sourceFromChannels([left, right], 44_100), recipe, plainTools);
    expect(await lossOf(white, white)).toBeCloseTo(0, 6);
    expect(await lossOf(white, noise(4 * 44_100, 2, 0.3))).toBeCloseTo(-3, 1);
    expect(await lossOf(white, white.map((x) => -x))).toBeLessThan(-100); // prettier-ignore
    expect(await lossOf(white, white, { version: 1, steps: [] })).toBeNull();
  });

  test('one broken beginning bounds the grade of a long sound', async () => {
    const long = noise(20 * 44_100, 3, 0.3);
    const broken = long.map((x, i) => (i < 20_000 ? -0.6 * x + (i % 50) / 100 : x));
    const found = await fidelity(of(long), of(broken));
    expect(found.worstHalfSecond!.seconds).toBeLessThan(0.6);
    expect(found.worstHalfSecond!.grade).toBeLessThan(-2.5);
    expect(found.grade).toBeLessThanOrEqual(found.worstHalfSecond!.grade + 1.001);
  });
});
