import { barkOf, earBands, hzAt } from '@/core/compare/ear/bands';
import { EAR_FRAME, EAR_HOP, EarChannel } from '@/core/compare/ear/channel';
import {
  forwardFactor,
  innerNoiseDb,
  maskingOffsetDb,
  outerEarDb,
} from '@/core/compare/ear/hearing';
import { EarMeter } from '@/core/compare/ear/meter';
import { DOWNWARD_DB, spread, upwardDb } from '@/core/compare/ear/spreading';
import { noise, sine } from '../signals';

const RATE = 48_000;
const db = (power: number) => 10 * Math.log10(power);

test('109 bands of a quarter Bark lie between 80 Hz and 18 kHz', () => {
  expect(earBands).toHaveLength(109);
  expect(earBands[0]!.fromHz).toBeCloseTo(80, 6);
  expect(earBands[0]!.centreHz).toBeCloseTo(91.7, 1);
  expect(earBands[0]!.toHz).toBeCloseTo(103.4, 1);
  expect(earBands.at(-1)!.toHz).toBeCloseTo(18_000, 6);
  for (const { fromHz, toHz } of earBands.slice(0, -1)) {
    expect(barkOf(toHz) - barkOf(fromHz)).toBeCloseTo(0.25, 9);
  }
  expect(barkOf(650)).toBeCloseTo(7 * Math.asinh(1), 12);
  expect(hzAt(barkOf(1_234))).toBeCloseTo(1_234, 8);
});

test('outer ear, inner noise, slopes, ringing and offsets have the figures of the literature', () => {
  expect([100, 1_000, 3_300, 10_000].map((hz) => Number(outerEarDb(hz).toFixed(2)))).toEqual([
    -13.77, -1.91, 5.59, -4.33,
  ]);
  expect(innerNoiseDb(1_000)).toBeCloseTo(1.46, 2);
  expect(upwardDb(1_000, 60)).toBeCloseTo(12.23, 6);
  expect(DOWNWARD_DB).toBe(27);
  const hop = EAR_HOP / RATE;
  expect(forwardFactor(100, hop)).toBeCloseTo(0.491, 3);
  expect(forwardFactor(1_000, hop)).toBeCloseTo(0.124, 3);
  expect([0, 48, 49, 100].map((band) => maskingOffsetDb(band, 0.25))).toEqual([3, 3, 3.0625, 6.25]);
});

/** The same spreading, word for word as the literature has it: every band's curve, added up. */
function spreadPlainly(power: readonly number[]): number[] {
  const curves = (powers: readonly number[]) =>
    powers.map((own, from) => {
      const fall = (to: number) => {
        const bark = 0.25 * Math.abs(to - from);
        return to < from ? -27 * bark : -upwardDb(earBands[from]!.centreHz, db(own)) * bark;
      };
      const curve = powers.map((_, to) => 10 ** (fall(to) / 10));
      const all = curve.reduce((sum, x) => sum + x, 0);
      return curve.map((x) => (own * x) / all);
    });
  const added = (powers: readonly number[]) => {
    const all = curves(powers);
    return powers.map((_, to) => all.reduce((sum, curve) => sum + curve[to]! ** 0.4, 0) ** 2.5);
  };
  const flat = added(power.map(() => 1));
  return added(power).map((x, band) => x / flat[band]!);
}

test.each([
  ['a tone', (band: number) => (band === 50 ? 1e6 : 1.4)],
  ['noise', (band: number) => 1e4 * (1.5 + Math.sin(band * 7.7))],
  ['a loud slope', (band: number) => 10 ** (9 - band / 20)],
])('spreading %s is the sum of all curves, to 0.01 dB', (_, of) => {
  const power = Float64Array.from({ length: 109 }, (__, band) => of(band));
  const found = new Float64Array(109);
  spread(power, found);
  const plain = spreadPlainly([...power]);
  found.forEach((x, band) => expect(Math.abs(db(x) - db(plain[band]!))).toBeLessThan(0.01));
});

test('full scale is heard at 92 dB, and its mask is its spread excitation less the offset', () => {
  const tone = sine(RATE, 1_019.5, EAR_FRAME, 1);
  const silent = new Float32Array(EAR_FRAME);
  // Against silence the difference is the tone itself.
  const { mask, noise: excited } = new EarChannel().push(tone, silent, 0);
  // Between two bins, a Hann window gives both of them 92 dB and their neighbours a fifth of the amplitude.
  const whole = 92 + db(2 * (1 + 0.2 ** 2)) + outerEarDb(1_019.5);
  expect(db(excited.reduce((sum, x) => sum + x, 0))).toBeCloseTo(whole, 1);
  const heard = [...excited].map((x, k) => x + 10 ** (innerNoiseDb(earBands[k]!.centreHz) / 10));
  spreadPlainly(heard).forEach((x, band) => {
    expect(Math.abs(db(mask[band]!) - db(x) + maskingOffsetDb(band, 0.25))).toBeLessThan(0.01);
  });
  expect([...new EarChannel().push(tone, tone, 0).noise]).toEqual(new Array(109).fill(0));
});

test('what rang masks what follows for as long as the literature says', () => {
  const ear = new EarChannel();
  const loud = noise(EAR_FRAME, 3);
  const silent = new Float32Array(EAR_FRAME);
  const at = (hz: number) => earBands.findIndex(({ toHz }) => hz < toHz);
  const bands = [at(100), at(1_000)];
  const first = [...ear.push(loud, loud, 0).mask];
  const second = [...ear.push(silent, silent, 0).mask];
  bands.forEach((band, i) => {
    const factor = forwardFactor(earBands[band]!.centreHz, EAR_HOP / RATE);
    // A single frame leaves only its new share behind: (1 − factor), times the factor of the hop that passed.
    expect(second[band]! / first[band]!).toBeCloseTo((1 - factor) * factor, 2);
    expect(second[band]! / first[band]!).toBeGreaterThan([0.2, 0.1][i]!);
  });
});

test('magnitudes alone are compared: polarity is not seen, a missing band is', () => {
  const source = noise(RATE, 5);
  const figures = (decoded: Float32Array) => {
    const meter = new EarMeter(RATE, 1);
    meter.push([source], [decoded]);
    return meter.result();
  };
  expect(figures(source)).toMatchObject({ nmrDb: null, disturbed: 0, worst: [] });
  expect(figures(source.map((x) => -x)).nmrDb ?? -300).toBeLessThan(-150);
  const gone = figures(new Float32Array(RATE));
  // Nothing of it is there: the noise is the sound itself, above its mask by the offset and what spreading takes.
  expect(gone.disturbed).toBe(1);
  expect(gone.nmrDb).toBeGreaterThan(0);
  expect(gone.bands.noiseDb[60]! - gone.bands.maskDb[60]!).toBeGreaterThan(2);
});

test('the worst moments are found where they are, apart from each other', () => {
  const source = noise(4 * RATE, 7);
  const decoded = source.slice();
  for (const [at, gain] of [
    [RATE, 0],
    [3 * RATE, 0.3],
  ] as const) {
    for (let i = at; i < at + 4_800; i++) decoded[i]! *= gain;
  }
  const meter = new EarMeter(RATE, 1);
  for (let at = 0; at < source.length; at += 10_000) {
    meter.push([source.subarray(at, at + 10_000)], [decoded.subarray(at, at + 10_000)]);
  }
  const { worst, curve } = meter.result();
  expect(Math.abs(worst[0]!.seconds - 1.05)).toBeLessThan(0.05);
  expect(Math.abs(worst[1]!.seconds - 3.05)).toBeLessThan(0.05);
  const loudest = curve.nmrDb.indexOf(Math.max(...curve.nmrDb.map((x) => x ?? -300)));
  expect(Math.abs(loudest * curve.stepSeconds - 1.05)).toBeLessThan(0.05);
});
