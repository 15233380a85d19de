import fc from 'fast-check';
import { collectChannels } from '@/core/pcm/pcm';
import { sourceFromChannels, streamOf } from '@/core/pcm/source';
import { deepestOf, depthDb, limited, type Limit } from '@/core/dsp/limiter';
import { TruePeakMeter } from '@/core/measure/truePeak';
import { ebur128 } from '../../tools/bench/ebur128';
import type { Loop } from '@/core/marks';
import { noise, sine } from './signals';

const limit: Limit = { ceilingDbtp: -1, releaseMs: 100 };
const bytes = (samples: Float32Array) => Buffer.from(samples.buffer);
const amplitude = (db: number) => 10 ** (db / 20);

async function through(
  sound: Float32Array[],
  rateHz: number,
  options: Limit = limit,
  startFrame = 0,
  blockFrames = 4_096,
) {
  const source = sourceFromChannels(sound, rateHz, { blockFrames });
  const deepest = await deepestOf(streamOf(source), options);
  return collectChannels(streamOf(limited(source, options, deepest), startFrame));
}

function truePeak(sound: Float32Array[], rateHz: number): number {
  const meter = new TruePeakMeter(rateHz, sound.length);
  meter.push(sound);
  return meter.result().truePeakDbtp!;
}

/** Noise at a tenth of full scale with bursts of it that lie up to 12 dB above full scale. */
function bursts(frames: number, seed: number): Float32Array {
  const quiet = noise(frames, seed, 0.1);
  const loud = noise(frames, seed + 1, 4);
  return quiet.map((x, i) =>
    Math.floor(i / 3_000) % 4 === 1 ? loud[i]! * ((i % 3_000) / 3_000) : x,
  );
}

describe('the ceiling holds, by the meters of strangers', () => {
  test.each([
    [8_000, -1],
    [22_050, -3],
    [44_100, -1],
    [48_000, -0.1],
    [96_000, -6],
    [192_000, -1],
  ])('at %i Hz, %f dBTP', async (rateHz, ceilingDbtp) => {
    const judge = await ebur128();
    const sounds = {
      bursts: [bursts(2 * rateHz, 1), bursts(2 * rateHz, 7)],
      tone: [sine(rateHz, rateHz / 5.1, rateHz, 3), sine(rateHz, 997, rateHz, 2)],
      step: [new Float32Array(rateHz).fill(1.5, rateHz / 2), new Float32Array(rateHz)],
    };
    for (const [name, sound] of Object.entries(sounds)) {
      const out = await through(sound, rateHz, { ceilingDbtp, releaseMs: 50 });
      const [own, foreign] = [truePeak(out, rateHz), judge.truePeak(out, rateHz)];
      expect(own).toBeLessThanOrEqual(ceilingDbtp);
      // Meters differ near half the rate, of which white noise is full.
      expect(foreign).toBeLessThanOrEqual(ceilingDbtp + (name === 'bursts' ? 0.35 : 0.02));
      expect(own).toBeGreaterThan(ceilingDbtp - (name === 'bursts' ? 3 : 0.1));
    }
  });
});

test('what is below the ceiling is the same to the bit, and a quiet sound the very same source', async () => {
  const sound = [noise(30_000, 3, 0.3)];
  sound[0]!.fill(2, 15_000, 15_010);
  const [out] = await through(sound, 48_000);
  const depth = depthDb(await deepestOf(streamOf(sourceFromChannels(sound, 48_000)), limit));
  // Look-ahead and its smoothing in front; behind, its smoothing, a hold of 25 ms and 75 ms for every 10 dB.
  const before = 15_000 - 240 - 24;
  const behind = 15_010 + 240 + 24 + 1_200 + Math.ceil(depth * 360);
  const same = (from: number, to?: number) =>
    bytes(out!.slice(from, to)).equals(bytes(sound[0]!.slice(from, to)));
  expect([same(0, before), same(before, behind), same(behind)]).toEqual([true, false, true]);
  const quiet = sourceFromChannels([noise(5_000, 4, 0.35)], 48_000);
  expect(limited(quiet, limit, await deepestOf(streamOf(quiet), limit))).toBe(quiet);
});

test('the level comes back by 10 dB in the time that was asked for', async () => {
  for (const releaseMs of [20, 200, 1_000]) {
    const sound = sine(48_000, 1_000, 192_000, 0.1);
    // 20 dB above what the ceiling lets through.
    sound[24_000] = amplitude(19);
    const [out] = await through([sound], 48_000, { ceilingDbtp: -1, releaseMs });
    const gainAt = (frame: number) => {
      // The crest of the sine that is nearest.
      const crest = Math.round((frame - 12) / 48) * 48 + 12;
      return 20 * Math.log10(out![crest]! / sound[crest]!);
    };
    const tenLater = 24_000 + 120 + Math.round((releaseMs / 1_000) * 48_000);
    expect(gainAt(tenLater)).toBeCloseTo(-10, 0);
    expect(gainAt(tenLater + Math.round((releaseMs / 1_000) * 49_000) + 200)).toBe(0);
  }
});

test('the gain never jumps', async () => {
  const sound = new Float32Array(48_000).fill(0.1);
  sound.fill(1.8, 20_000, 20_050);
  const [out] = await through([sound], 48_000);
  const gains = Array.from(out!, (x, i) => 20 * Math.log10(x / sound[i]!));
  const steps = gains.slice(1).map((gain, i) => Math.abs(gain - gains[i]!));
  // 6 dB within 5 ms: at most twice as steep as a straight line.
  expect(Math.max(...steps)).toBeLessThan((2 * 7.25) / 240);
});

test('both channels are turned down alike, so that nothing wanders', async () => {
  const sound = [bursts(20_000, 5), noise(20_000, 9, 0.1)];
  const out = await through(sound, 44_100);
  for (let i = 0; i < 20_000; i += 7) {
    const [left, right] = out.map((channel, c) => channel[i]! / sound[c]![i]!);
    expect(left! / right!).toBeCloseTo(1, 4);
  }
});

test('it is the same to the bit wherever reading begins and in whatever blocks', async () => {
  const sound = [bursts(40_000, 11), bursts(40_000, 12)];
  const whole = await through(sound, 44_100, limit);
  await fc.assert(
    fc.asyncProperty(fc.nat(39_999), fc.integer({ min: 100, max: 9_000 }), async (start, block) => {
      const part = await through(sound, 44_100, limit, start, block);
      const same = part.map((channel, c) => bytes(channel).equals(bytes(whole[c]!.slice(start))));
      expect(same).toEqual([true, true]);
    }),
    { numRuns: 25 },
  );
});

test('shorter sounds than its look-ahead keep their length', async () => {
  for (const frames of [1, 2, 11, 12, 13, 239, 240, 241]) {
    const [out] = await through([new Float32Array(frames).fill(3)], 48_000);
    expect(out).toHaveLength(frames);
    expect(Math.max(...out!)).toBeLessThanOrEqual(amplitude(-1));
  }
});

test('a deep tone is turned down and not bent: below −50 dB of distortion with the usual release', async () => {
  for (const hz of [30, 45, 80]) {
    for (const overDb of [1, 6, 12]) {
      const rateHz = 48_000;
      const sound = sine(rateHz, hz, 4 * rateHz, amplitude(-1 + overDb));
      const [out] = await through([sound], rateHz);
      // The steady part, in whole periods.
      const part = out!.subarray(rateHz, rateHz + (2 * rateHz * hz) / hz);
      let [s, c] = [0, 0];
      part.forEach((x, i) => {
        s += x * Math.sin((2 * Math.PI * hz * i) / rateHz);
        c += x * Math.cos((2 * Math.PI * hz * i) / rateHz);
      });
      const own = (s * s + c * c) / part.length;
      const rest = part.reduce((sum, x) => sum + x * x, 0) - 2 * own;
      expect(10 * Math.log10(Math.max(1e-12, rest / (2 * own)))).toBeLessThan(-50);
    }
  }
});

test('in a loop the gain goes on over the seam: what is at one end is turned down at the other', async () => {
  const rateHz = 48_000;
  const length = rateHz;
  // A tone of whole periods whose level rises above the ceiling at the end of the loop.
  const value = (i: number) =>
    amplitude(-6 + 10 * Math.exp(-(((i - length) / 2_000) ** 2))) *
    Math.sin((2 * Math.PI * 480 * i) / rateHz);
  const once = Float32Array.from({ length }, (_, i) => value(i) + value(i + length) / 1e9);
  const limited3 = async (frames: number, loop: Loop | null) => {
    const sound = Float32Array.from({ length: frames }, (_, i) => once[i % length]!);
    const source = { ...sourceFromChannels([sound], rateHz), loop };
    const deepest = await deepestOf(streamOf(source), limit);
    const [out] = await collectChannels(streamOf(limited(source, limit, deepest)));
    return out!;
  };
  const unrolled = await limited3(3 * length, null);
  const around = await limited3(length, { startFrame: 0, endFrame: length });
  expect(bytes(around).equals(bytes(unrolled.slice(length, 2 * length)))).toBe(true);
  // On its own the beginning would not have been turned down.
  const alone = await limited3(length, null);
  expect(bytes(alone.slice(0, 1_000)).equals(bytes(around.slice(0, 1_000)))).toBe(false);
});
