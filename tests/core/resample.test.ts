import fc from 'fast-check';
import { resampled, resampledFrames, Resampler } from '@/core/dsp/resample';
import { collectChannels } from '@/core/pcm/pcm';
import { sourceFromChannels, streamOf } from '@/core/pcm/source';
import { noise, sine } from './signals';

async function convert(signal: Float32Array, fromHz: number, toHz: number): Promise<Float32Array> {
  const [out] = await collectChannels(
    streamOf(resampled(sourceFromChannels([signal], fromHz), toHz)),
  );
  return out!;
}

/** Amplitude of the sine at `hz` and the RMS of all that is left when it is taken out, over the middle. */
function fit(signal: Float32Array, rateHz: number, hz: number) {
  const from = Math.floor(signal.length * 0.1);
  const to = Math.floor(signal.length * 0.9);
  // Least squares for a·sin + b·cos.
  let ss = 0,
    sc = 0,
    cc = 0,
    xs = 0,
    xc = 0;
  for (let i = from; i < to; i++) {
    const w = (2 * Math.PI * hz * i) / rateHz;
    const s = Math.sin(w),
      c = Math.cos(w),
      x = signal[i]!;
    ss += s * s;
    sc += s * c;
    cc += c * c;
    xs += x * s;
    xc += x * c;
  }
  const det = ss * cc - sc * sc;
  const a = (xs * cc - xc * sc) / det;
  const b = (xc * ss - xs * sc) / det;
  let rest = 0;
  for (let i = from; i < to; i++) {
    const w = (2 * Math.PI * hz * i) / rateHz;
    rest += (signal[i]! - a * Math.sin(w) - b * Math.cos(w)) ** 2;
  }
  return {
    amplitude: Math.hypot(a, b),
    phase: Math.atan2(b, a),
    restRms: Math.sqrt(rest / (to - from)),
  };
}

const db = (x: number) => 20 * Math.log10(x);
const pairs: [number, number][] = [
  [48_000, 44_100],
  [44_100, 48_000],
  [96_000, 44_100],
  [44_100, 22_050],
  [22_050, 48_000],
];

test.each(pairs)('997 Hz at −6 dBFS, %i → %i Hz: error at most −110 dB', async (from, to) => {
  const out = await convert(sine(from, 997, from), from, to);
  const ideal = sine(to, 997, out.length);
  let worst = 0;
  for (let i = 2_000; i < out.length - 2_000; i++) worst += (out[i]! - ideal[i]!) ** 2;
  expect(db(Math.sqrt(worst / (out.length - 4_000)) / (0.5 / Math.SQRT2))).toBeLessThan(-110);
});

test('48 → 44.1 kHz is flat within ±0.05 dB up to 20 kHz', async () => {
  for (let hz = 50; hz <= 20_000; hz += 1_995) {
    const out = await convert(sine(48_000, hz, 24_000), 48_000, 44_100);
    expect(Math.abs(db(fit(out, 44_100, hz).amplitude / 0.5))).toBeLessThan(0.05);
  }
});

test('what lies above the new half rate leaves no alias above −100 dB', async () => {
  for (const hz of [22_100, 22_500, 23_000, 23_900]) {
    const out = await convert(sine(48_000, hz, 48_000), 48_000, 44_100);
    const middle = out.subarray(2_000, -2_000);
    expect(
      db(Math.sqrt(middle.reduce((sum, x) => sum + x * x, 0) / middle.length) / 0.3536),
    ).toBeLessThan(-100);
  }
});

test('going up leaves no image above −100 dB', async () => {
  for (const hz of [997, 10_007, 19_997]) {
    const out = await convert(sine(44_100, hz, 44_100), 44_100, 96_000);
    const { amplitude, restRms } = fit(out, 96_000, hz);
    expect(db((restRms * Math.SQRT2) / amplitude)).toBeLessThan(-100);
  }
});

test('a ratio with no small terms is interpolated and still clean', async () => {
  const out = await convert(sine(44_100, 997, 44_100), 44_100, 47_999);
  const { restRms, amplitude, phase } = fit(out, 47_999, 997);
  expect(db((restRms * Math.SQRT2) / amplitude)).toBeLessThan(-110);
  expect(Math.abs(phase)).toBeLessThan(1e-4);
});

test('length is exact and the cutting into blocks changes nothing', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.integer({ min: 1, max: 6_000 }),
      fc.integer({ min: 1, max: 3_000 }),
      fc.constantFrom(...pairs),
      async (frames, blockFrames, [from, to]) => {
        const channels = [noise(frames, 1), noise(frames, 2), noise(frames, 3)];
        const whole = await collectChannels(
          streamOf(resampled(sourceFromChannels(channels, from), to)),
        );
        const cut = await collectChannels(
          streamOf(resampled(sourceFromChannels(channels, from, { blockFrames }), to)),
        );
        expect(cut).toEqual(whole);
        expect(whole[0]!.length).toBe(resampledFrames(frames, from, to));
      },
    ),
    { numRuns: 40 },
  );
});

test.each([32_000, 37_800, 44_100, 88_200, 96_000, 22_050])(
  'where only what lies below 18 kHz is wanted, that is right (%i → 48,000 Hz)',
  (from) => {
    for (const hz of [997, 9_000, 10_900, 15_000, 17_900, 19_000, 26_000, 40_000]) {
      if (hz >= 0.9 * (from / 2)) continue;
      const resampler = new Resampler(from, 48_000, 1, 18_000);
      const blocks = [resampler.push([sine(from, hz, from)]), resampler.finish()];
      const out = Float32Array.from(blocks.flatMap(([channel]) => [...channel!]));
      expect(out).toHaveLength(48_000);
      // The part below is found by fitting: what is above may be anything.
      const wanted = new Resampler(48_000, 36_000, 1);
      const below = wanted.push([out])[0]!;
      const { amplitude, restRms } = fit(below, 36_000, hz);
      if (hz < 18_000 * 0.9) expect(Math.abs(db(amplitude / 0.5))).toBeLessThan(0.05);
      const rest = hz < 18_000 ? restRms : Math.hypot(restRms, amplitude / Math.SQRT2);
      if (hz < 16_000 || hz > 19_900) expect(db(rest / 0.3536)).toBeLessThan(-100);
    }
  },
);
