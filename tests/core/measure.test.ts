import fc from 'fast-check';
import { ebur128 } from '../../tools/bench/ebur128';
import { demoSounds } from '../../tools/demo/sounds';
import { memorySource } from '@/core/bytes/source';
import { kWeighting, LoudnessMeter } from '@/core/measure/loudness';
import { probe } from '@/core/measure/probe';
import { worriesOf } from '@/core/measure/worries';
import { decode, encode } from './files';
import { measure as measured } from './measured';
import { gridNoise, noise, sine } from './signals';

const RATE = 48_000;

const measure = (channels: Float32Array[], rateHz = RATE, blockFrames = 65_536) =>
  measured(channels, { rateHz, blockFrames });

/** Only how loud it is: much of the time would else go into spectra. */
function loudness(channels: Float32Array[]) {
  const meter = new LoudnessMeter({ rateHz: RATE, channelCount: channels.length });
  meter.push(channels);
  return meter.result();
}

/** Stretches of a 1 kHz sine behind each other, the same on both sides: level in dBFS and seconds. */
function stretches(...parts: [db: number, seconds: number][]): Float32Array[] {
  const channel = new Float32Array(parts.reduce((sum, [, seconds]) => sum + seconds * RATE, 0));
  let at = 0;
  for (const [db, seconds] of parts) {
    channel.set(sine(RATE, 1_000, seconds * RATE, 10 ** (db / 20)), at);
    at += seconds * RATE;
  }
  return [channel, channel];
}

describe('loudness (EBU Tech 3341)', () => {
  test('the filters at 48 kHz are those of ITU-R BS.1770', () => {
    const [shelf, highPass] = kWeighting(48_000);
    const table = [
      1.53512485958697, -2.69169618940638, 1.19839281085285, -1.69065929318241, 0.73248077421585,
    ];
    [shelf.b0, shelf.b1, shelf.b2, shelf.a1, shelf.a2].forEach((x, i) =>
      expect(x).toBeCloseTo(table[i]!, 6),
    );
    expect(highPass.a1).toBeCloseTo(-1.99004745483398, 6);
    expect(highPass.a2).toBeCloseTo(0.99007225036621, 6);
  });

  test.each([
    ['case 1', stretches([-23, 20]), -23],
    ['case 2', stretches([-33, 20]), -33],
    ['case 3', stretches([-36, 10], [-23, 60], [-36, 10]), -23],
    ['case 4', stretches([-72, 10], [-36, 10], [-23, 60], [-36, 10], [-72, 10]), -23],
    ['case 5', stretches([-26, 20], [-20, 20.1], [-26, 20]), -23],
  ])('%s', (_, sound, expected) => {
    expect(Math.abs(loudness(sound).lufs! - expected)).toBeLessThanOrEqual(0.1);
  });

  test('case 6: five channels, the surrounds weigh more', () => {
    const at = (db: number) => sine(RATE, 1_000, 20 * RATE, 10 ** (db / 20));
    expect(
      Math.abs(loudness([at(-28), at(-28), at(-24), at(-30), at(-30)]).lufs! + 23),
    ).toBeLessThanOrEqual(0.1);
  });

  test.each([
    ['case 1', stretches([-20, 20], [-30, 20]), 10],
    ['case 2', stretches([-20, 20], [-15, 20]), 5],
    ['case 3', stretches([-40, 20], [-20, 20]), 20],
    ['case 4', stretches([-50, 20], [-35, 20], [-20, 20], [-35, 20], [-50, 20]), 15],
  ])('range (EBU Tech 3342), %s', (_, sound, expected) => {
    expect(Math.abs(loudness(sound).loudnessRangeLu! - expected)).toBeLessThanOrEqual(1);
  });

  test('on the demo sounds it agrees with an independent meter to 0.05 LU', async () => {
    const other = await ebur128();
    for (const { fileName: name, rateHz, make } of demoSounds) {
      const channels = make(rateHz);
      if (channels.length > 2) continue;
      const ours = measure(channels, rateHz);
      const theirs = other.integrated(channels, rateHz);
      if (ours.lufs === null) continue;
      expect([name, Math.abs(ours.lufs - theirs) < 0.05]).toEqual([name, true]);
      const peak = other.truePeak(channels, rateHz);
      expect([name, Math.abs(ours.truePeakDbtp! - peak) < 0.3]).toEqual([name, true]);
    }
  });

  test('too short or too quiet has no loudness', () => {
    expect(measure([sine(RATE, 1_000, 10_000)]).lufs).toBeNull();
    expect(measure([sine(RATE, 1_000, RATE, 1e-5)]).lufs).toBeNull();
    expect(measure([sine(RATE, 1_000, RATE)]).loudnessRangeLu).toBeNull();
  });
});

describe('true peak (EBU Tech 3341)', () => {
  const turned = (part: number, degrees: number, amplitude: number) =>
    Float32Array.from(
      { length: RATE },
      // A sudden start would be a peak of its own.
      (_, i) =>
        Math.min(1, i / 4_800, (RATE - i) / 4_800) *
        amplitude *
        Math.sin((2 * Math.PI * i) / part + (degrees * Math.PI) / 180),
    );
  test.each([
    ['case 15', turned(4, 0, 0.5), -6],
    ['case 16', turned(4, 45, 0.5), -6],
    ['case 17', turned(6, 60, 0.5), -6],
    ['case 18', turned(8, 67.5, 0.5), -6],
    ['case 19', turned(4, 45, 1.41), 3],
  ])('%s', (_, sound, expected) => {
    const found = measure([sound, sound]).truePeakDbtp!;
    expect(found).toBeLessThanOrEqual(expected + 0.2);
    expect(found).toBeGreaterThanOrEqual(expected - 0.4);
  });

  test.each([0, 1, 2, 3])('cases 20 to 23: a peak %i quarters behind a sample', (quarter) => {
    // A band-limited pulse whose top lies between the samples.
    const pulse = Float32Array.from({ length: 2_001 }, (_, i) => {
      const x = 0.8 * (i - 1_000 - quarter / 4);
      return x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x);
    });
    const found = measure([pulse]).truePeakDbtp!;
    expect(found).toBeLessThanOrEqual(0.2);
    expect(found).toBeGreaterThanOrEqual(-0.4);
  });

  test('it is never below the sample peak', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1e6 }),
        fc.constantFrom(8_000, 44_100, 96_000, 192_000),
        (seed, rate) => {
          const found = measure([noise(5_000, seed)], rate);
          expect(found.truePeakDbtp!).toBeGreaterThanOrEqual(found.peakDbfs!);
        },
      ),
      { numRuns: 30 },
    );
  });
});

test('how the sound is cut into blocks never changes a measure', () => {
  const sound = [noise(50_000, 1), noise(50_000, 2, 0.2)];
  sound[0]!.fill(1, 2_000, 2_010);
  const whole = measure(sound);
  for (const blockFrames of [1_000, 4_097, 16_384]) {
    const cut = measure(sound, RATE, blockFrames);
    expect(cut.lufs).toBeCloseTo(whole.lufs!, 9);
    expect(cut.rmsDbfs).toBeCloseTo(whole.rmsDbfs!, 9);
    expect(cut.dcOffset).toBeCloseTo(whole.dcOffset, 9);
    expect({ ...cut, lufs: 0, rmsDbfs: 0, dcOffset: 0, correlation: 0 }).toEqual({
      ...whole,
      lufs: 0,
      rmsDbfs: 0,
      dcOffset: 0,
      correlation: 0,
    });
  }
});

test('silence has no level, no loudness, no spectrum, and uses no bits', () => {
  expect(measure([new Float32Array(RATE)])).toMatchObject({
    peakDbfs: null,
    truePeakDbtp: null,
    lufs: null,
    bandwidthHz: null,
    usedBits: 0,
  });
});

describe('worries', () => {
  const worriesAbout = async (channels: Float32Array[], rateHz = RATE) => {
    const { facts } = await probe(
      memorySource(await encode(channels, rateHz, 'wav', { bits: 32 })),
    );
    return worriesOf(facts, 'wind.wav').map(({ code }) => code);
  };
  const alright = () => [noise(RATE, 1), noise(RATE, 2)];

  test('a sound that is alright worries nobody', async () => {
    expect(await worriesAbout(alright())).toEqual([]);
  });

  test.each([
    ['clipped', () => alright().map((channel) => channel.fill(1, 500, 520))],
    ['silent-head', () => alright().map((channel) => channel.fill(0, 0, 20_000))],
    ['silent-tail', () => alright().map((channel) => channel.fill(0, 20_000))],
    ['identical-channels', () => [noise(RATE, 1), noise(RATE, 1)]],
    ['opposite-polarity', () => [noise(RATE, 1), noise(RATE, 1).map((x) => -x)]],
    ['very-quiet', () => alright().map((channel) => channel.map((x) => x / 200))],
    ['dc-offset', () => alright().map((channel) => channel.map((x) => x + 0.05))],
    ['spare-rate', () => [sine(RATE, 900, RATE), sine(RATE, 700, RATE)]],
    ['silent', () => [new Float32Array(RATE)]],
  ])('%s', async (code, make) => {
    expect(await worriesAbout(make())).toContain(code);
  });

  test('unused bits', async () => {
    const bytes = await encode([gridNoise(RATE, 16)], RATE, 'wav', { bits: 24 }, 16);
    const { facts } = await probe(memorySource(bytes));
    expect(facts.usedBits).toBe(16);
    expect(worriesOf(facts, null).map(({ code }) => code)).toEqual(['unused-bits']);
  });

  test('a rate is doubted only where the file contradicts itself', async () => {
    const bytes = (await encode(alright(), 44_100, 'wav', { bits: 16 })).slice();
    new DataView(bytes.buffer).setUint32(28, 22_050 * 4, true);
    const { facts } = await probe(memorySource(bytes));
    const [worry] = worriesOf(facts, null);
    expect(worry).toMatchObject({ code: 'rate-doubtful', cure: [{ params: { rateHz: 22_050 } }] });
  });

  test('what was lossy before is found in lossless clothes, what never was is not', async () => {
    const wind = [noise(44_100 * 4, 7, 0.4)];
    for (const kbps of [96, 128, 160]) {
      const { channels } = await decode(await encode(wind, 44_100, 'mp3', { kbps }));
      expect([kbps, await worriesAbout(channels, 44_100)]).toEqual([kbps, ['lossy-before']]);
    }
    expect(await worriesAbout(wind, 44_100)).toEqual([]);
  });
});
