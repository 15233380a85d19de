import { toDb } from '@/core/measure/decibels';
import { LoudnessMeter } from '@/core/measure/loudness';
import { TruePeakMeter } from '@/core/measure/truePeak';
import { resampled } from '@/core/dsp/resample';
import { collectChannels, type Block } from '@/core/pcm/pcm';
import { sourceFromChannels, streamOf } from '@/core/pcm/source';
import { noise, sine } from './signals';

/** True peak and loudness against what ITU-R BS.1770 says of them, written out. */

interface Meter<Result> {
  push(block: Block): void;
  result(): Result;
}

function read<Result>(meter: Meter<Result>, channels: Float32Array[], blockFrames = 1_000): Result {
  for (let at = 0; at < channels[0]!.length; at += blockFrames) {
    meter.push(channels.map((channel) => channel.subarray(at, at + blockFrames)));
  }
  return meter.result();
}

const truePeak = (channels: Float32Array[], rateHz: number, blockFrames?: number) =>
  read(new TruePeakMeter(rateHz, channels.length), channels, blockFrames).truePeakDbtp;

const loudness = (channels: Float32Array[], rateHz: number, speakerMask?: number) =>
  read(new LoudnessMeter({ rateHz, channelCount: channels.length, speakerMask }), channels, 10_007);

describe('true peak', () => {
  /** At a quarter of the rate, where every sample misses the top by 3 dB; it comes and goes softly. */
  const between = (frames: number) =>
    Float32Array.from(
      { length: frames },
      (_, i) => Math.sin(Math.PI * (i / 2 + 1 / 4)) * Math.sin((Math.PI * i) / frames) ** 2,
    );
  test.each([
    [8_000, 0],
    [48_000, 0],
    [87_999, 0],
    [88_000, 0],
    [96_000, 0],
    [175_999, 0],
    [176_000, 0],
    [192_000, 0],
  ])('at %i Hz', (rateHz, db) => {
    for (const blockFrames of [50, 8_192]) {
      const sound = between(4_096);
      for (const channel of [sound, sound.map((x) => -x)]) {
        const both = [new Float32Array(4_096), channel];
        expect(truePeak(both, rateHz, blockFrames)).toBeCloseTo(db, 1);
      }
    }
  });

  /** Sixteen values between two samples, by the sum of all sines (a window of 256 samples). */
  function dense(sound: Float32Array): number {
    const half = 128;
    const weights = Array.from({ length: 15 }, (_, p) =>
      Float64Array.from({ length: 2 * half }, (__, k) => {
        const d = Math.PI * (k + 1 - half - (p + 1) / 16);
        return (Math.cos((d / half) * 0.5) ** 2 * Math.sin(d)) / d;
      }),
    );
    const samples = new Float32Array(sound.length + 4 * half);
    samples.set(sound, 2 * half);
    const peak = sound.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
    let most = peak;
    for (let i = half; i < samples.length - half; i++) {
      if (Math.max(Math.abs(samples[i]!), Math.abs(samples[i + 1]!)) < peak * 0.3) continue;
      for (const own of weights) {
        let sum = 0;
        for (let k = 0; k < 2 * half; k++) sum += samples[i + 1 - half + k]! * own[k]!;
        most = Math.max(most, Math.abs(sum));
      }
    }
    return toDb(most)!;
  }

  test.each([8_000, 11_025, 22_050, 44_100, 48_000, 96_000])(
    'within 0.1 dB of what is sixteen times as dense, at %i Hz',
    async (rateHz) => {
      for (const seed of [1, 2, 3]) {
        // Full of what the rate holds, as what was brought down to it is.
        const wide = sourceFromChannels([noise(30_000, seed, 0.3)], 2 * rateHz + 1);
        const [sound] = await collectChannels(streamOf(resampled(wide, rateHz)));
        const part = sound!.slice(2_000, 5_000);
        expect(Math.abs(truePeak([part], rateHz)! - dense(part))).toBeLessThan(0.1);
      }
    },
  );

  test('the end meets silence, the beginning does too', () => {
    const sound = Float32Array.of(0.5, -0.5, 0.5, -0.5, 0.5, -0.5, 0.5, -0.5);
    const alone = truePeak([sound], 48_000)!;
    const padded = new Float32Array(100);
    padded.set(sound, 40);
    expect(truePeak([padded], 48_000)).toBeCloseTo(alone, 6);
    expect(alone).toBeGreaterThan(toDb(0.5)! + 0.3);
    expect(truePeak([Float32Array.of(0.5)], 48_000)).toBeCloseTo(toDb(0.5)!, 6);
  });
});

describe('loudness', () => {
  /** Both filters, the blocks and the gates as ITU-R BS.1770 writes them, at 48 kHz. */
  function plainLoudness(sound: Float32Array[], weights: number[]) {
    const filtered = sound.map((channel) => {
      const shelf = biquad(
        channel,
        [1.53512485958697, -2.69169618940638, 1.19839281085285],
        [-1.69065929318241, 0.73248077421585],
      );
      return biquad(shelf, [1, -2, 1], [-1.99004745483398, 0.99007225036621]);
    });
    const blocks = (seconds: number) => {
      const length = seconds * 48_000;
      const powers: number[] = [];
      for (let at = 0; at + length <= sound[0]!.length; at += 4_800) {
        let power = 0;
        filtered.forEach((channel, c) => {
          for (let i = at; i < at + length; i++) power += (weights[c]! * channel[i]! ** 2) / length;
        });
        powers.push(power);
      }
      return powers;
    };
    const mean = (list: number[]) => list.reduce((sum, x) => sum + x, 0) / list.length;
    const lkfs = (power: number) => -0.691 + 10 * Math.log10(power);
    const momentary = blocks(0.4).filter((power) => lkfs(power) > -70);
    const relative = lkfs(mean(momentary)) - 10;
    const lufs = momentary.length
      ? lkfs(mean(momentary.filter((power) => lkfs(power) > relative)))
      : null;
    const shortTerm = blocks(3).filter((power) => lkfs(power) >= -70);
    const low = lkfs(mean(shortTerm)) - 20;
    const kept = shortTerm.filter((power) => lkfs(power) >= low).sort((a, b) => a - b);
    const at = (share: number) => lkfs(kept[Math.round((kept.length - 1) * share)]!);
    return { lufs, range: kept.length ? at(0.95) - at(0.1) : null };
  }

  function biquad(x: ArrayLike<number>, b: number[], a: number[]): Float64Array {
    const y = new Float64Array(x.length);
    for (let i = 0; i < x.length; i++) {
      y[i] =
        b[0]! * x[i]! +
        b[1]! * (x[i - 1] ?? 0) +
        b[2]! * (x[i - 2] ?? 0) -
        a[0]! * (y[i - 1] ?? 0) -
        a[1]! * (y[i - 2] ?? 0);
    }
    return y;
  }

  /** Noise whose level jumps every third of a second or so, with long quiet in between. */
  function moody(seconds: number, seed: number): Float32Array {
    const level = noise(seconds * 3, seed + 100);
    return noise(seconds * 48_000, seed).map(
      (x, i) => x * 10 ** ((level[Math.floor(i / 16_000)]! - 0.5) * 2.5),
    );
  }

  test('of speakers, each with its weight', () => {
    const sound = [1, 2, 3, 4, 5, 6].map((seed) => moody(4, seed));
    const is51 = [1, 1, 1, 0, 1.41, 1.41];
    for (const [count, weights] of [
      [1, [1]],
      [2, [1, 1]],
      [6, is51],
    ] as const) {
      const part = sound.slice(0, count);
      const wanted = plainLoudness(part, [...weights]);
      const { lufs, loudnessRangeLu } = loudness(part, 48_000);
      expect(lufs).toBeCloseTo(wanted.lufs!, 3);
      expect(loudnessRangeLu).toBeCloseTo(wanted.range!, 3);
    }
    // Left, right, back left, back right.
    const quad = loudness(sound.slice(0, 4), 48_000, 0x33);
    expect(quad.lufs).toBeCloseTo(plainLoudness(sound.slice(0, 4), [1, 1, 1.41, 1.41]).lufs!, 3);
  });

  test('what is too quiet is left out: below −70 LUFS, and far below the rest', () => {
    const sound = moody(8, 9);
    const fallen = (by: number) => sound.map((x, i) => (i < 4 * 48_000 ? x : x * by));
    for (const by of [0.05, 0.01, 0.0005]) {
      const wanted = plainLoudness([fallen(by)], [1]);
      const { lufs, loudnessRangeLu } = loudness([fallen(by)], 48_000);
      expect(lufs).toBeCloseTo(wanted.lufs!, 3);
      expect(loudnessRangeLu).toBeCloseTo(wanted.range!, 3);
    }
    const inaudible = sound.map((x) => x * 1e-4);
    expect(loudness([inaudible], 48_000)).toEqual({ lufs: null, loudnessRangeLu: null });
  });

  test('begins at 0.4 s, its range at 3 s, whatever rate these are no whole tenths of', () => {
    for (const rateHz of [48_000, 11_025, 22_055]) {
      const lasts = (frames: number) => loudness([sine(rateHz, 1_000, frames)], rateHz);
      const [least, range] = [Math.round(0.4 * rateHz), 3 * rateHz];
      expect([rateHz, lasts(least - 1).lufs]).toEqual([rateHz, null]);
      expect(lasts(least).lufs).toBeCloseTo(-9.1, 0);
      expect([rateHz, lasts(range - 1).loudnessRangeLu]).toEqual([rateHz, null]);
      expect(lasts(range).loudnessRangeLu).toBeCloseTo(0, 2);
    }
  });
});
