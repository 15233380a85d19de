import { applySteps, step } from './files';
import { errorDb, noise, sine } from './signals';

/** Sounds whose sudden places are their own, and sounds into which clicks are planted. */
const RATE = 44_100;
const FRAMES = RATE;

const made = (f: (seconds: number, frame: number) => number) =>
  Float32Array.from({ length: FRAMES }, (_, i) => f(i / RATE, i));

/** The same hit again and again. */
function hits(hit: (frame: number) => number, every: number): Float32Array {
  const out = new Float32Array(FRAMES);
  for (let at = 2_000; at < FRAMES; at += every) {
    for (let i = 0; at + i < FRAMES && i < RATE / 2; i++) out[at + i]! += hit(i);
  }
  return out;
}

/** A string as a loop of noise that loses its edge (Karplus and Strong, 1983). */
function pluck(hz: number): Float32Array {
  const period = Math.round(RATE / hz);
  const loop = noise(period, hz, 0.7);
  return made((_, i) => {
    const at = i % period;
    const out = loop[at]!;
    loop[at] = 0.498 * (out + loop[(at + 1) % period]!);
    return out;
  });
}

const rumble = noise(RATE, 9, 1);
const pad = (i: number) => 0.2 * Math.sin(i * 0.03) + 0.1 * Math.sin(i * 0.0456);

const clean: Record<string, Float32Array> = {
  kick: hits((i) => 0.8 * Math.exp(-i / 4_000) * Math.sin(0.02 * i), RATE / 3),
  'kick that begins at full': hits(
    (i) => 0.8 * Math.exp(-i / 4_000) * Math.cos(0.02 * i),
    RATE / 3,
  ),
  'kick over a pad': hits((i) => 0.6 * Math.exp(-i / 4_000) * Math.cos(0.02 * i), RATE / 3).map(
    (x, i) => x + pad(i),
  ),
  snare: hits((i) => 0.6 * Math.exp(-i / 2_500) * rumble[i]! + 0.2 * Math.sin(i * 0.03), RATE / 3),
  hat: hits((i) => 0.5 * Math.exp(-i / 300) * rumble[i]!, RATE / 8),
  block: hits((i) => 0.7 * Math.exp(-i / 400) * Math.sin(i * 0.35), RATE / 4),
  sweep: made((t) => 0.5 * Math.sin(2 * Math.PI * (50 * t + 2_000 * t * t))),
  noise: noise(FRAMES, 3, 0.5),
  tone: sine(RATE, 997, FRAMES),
  silence: new Float32Array(FRAMES),
};
for (const hz of [30, 110, 440, 3_000]) {
  const phase = (t: number) => (t * hz) % 1;
  const period = Math.round(RATE / hz);
  clean[`square of ${hz} Hz`] = made((t) => (phase(t) < 0.5 ? 0.5 : -0.5));
  clean[`saw of ${hz} Hz`] = made((t) => phase(t) - 0.5);
  clean[`narrow square of ${hz} Hz`] = made((t) => (phase(t) < 0.1 ? 0.6 : -0.1));
  clean[`single samples at ${hz} Hz`] = made((_, i) => (i % period === 0 ? 0.7 : 0));
  clean[`pulses of ${hz} Hz`] = made((_, i) => (i % period < 5 ? 0.7 : 0));
  if (hz < 1_000) clean[`pluck of ${hz} Hz`] = pluck(hz);
}

test.each(Object.keys(clean))('what is its own stays: %s', async (name) => {
  const sound = clean[name]!;
  const [out] = await applySteps([step('declick')], [sound], 4_000, RATE);
  if (out!.some((x, i) => x !== sound[i])) expect(errorDb(out!, sound)).toBeLessThan(-60);
});

const chord = made((t) =>
  [220, 277, 330, 440].reduce((sum, hz, k) => sum + 0.12 * Math.sin(2 * Math.PI * hz * t + k), 0),
);
const hurtable: Record<string, Float32Array> = {
  silence: clean['silence']!,
  'a tone': sine(RATE, 330, FRAMES, 0.4),
  'a chord': chord,
  'a chord with noise': chord.map((x, i) => x + 0.01 * rumble[i % RATE]!),
  'a pluck': pluck(220),
  'drums over a pad': clean['kick over a pad']!,
};
const shapes: Record<string, (size: number) => number[]> = {
  'one sample': (size) => [size],
  'three samples': (size) => [size, -0.7 * size, 0.4 * size],
  'eight samples': (size) =>
    Array.from({ length: 8 }, (_, i) => size * Math.exp(-i / 3) * (i % 2 ? -1 : 1)),
};

test('95 of 100 planted clicks are mended, and nothing comes out louder than it was', async () => {
  let planted = 0;
  let mended = 0;
  for (const original of Object.values(hurtable)) {
    for (const shape of Object.values(shapes)) {
      const hurt = original.slice();
      const random = noise(60, planted + 1, 1);
      const places = Array.from({ length: 8 }, (_, k) => {
        const at = 3_000 + k * 5_000 + Math.round(2_000 * random[k]!);
        const size = Math.sign(random[k + 20]!) * (0.4 + 0.2 * random[k + 40]!);
        const click = shape(size);
        click.forEach((x, i) => (hurt[at + i]! += x));
        return { at, click };
      });
      const [out] = await applySteps([step('declick')], [hurt], 4_000, RATE);
      for (const { at, click } of places) {
        planted++;
        const span = [at - 2, at + click.length + 2] as const;
        const left = out!.subarray(...span).map((x, i) => x - original[span[0] + i]!);
        const power = (x: ArrayLike<number>) =>
          Array.from(x).reduce((sum, value) => sum + value * value, 0);
        if (power(left) < 0.05 * power(click)) mended++;
        const peak = (x: Float32Array) => x.reduce((most, v) => Math.max(most, Math.abs(v)), 0);
        const around = peak(hurt.subarray(at - 100, at + 100));
        expect(peak(out!.subarray(at - 50, at + 50))).toBeLessThanOrEqual(around);
      }
    }
  }
  expect(mended / planted).toBeGreaterThanOrEqual(0.95);
}, 120_000);

test('clicks are found at any rate, and in each channel by itself', async () => {
  for (const rate of [8_000, 22_050, 96_000]) {
    const hurt = sine(rate, 200, rate, 0.3);
    hurt[rate / 2] = 0.9;
    const other = sine(rate, 300, rate, 0.3);
    const [out, same] = await applySteps([step('declick')], [hurt, other], 4_000, rate);
    expect(Math.abs(out![rate / 2]! - sine(rate, 200, rate, 0.3)[rate / 2]!)).toBeLessThan(0.02);
    expect(same).toEqual(other);
  }
});
