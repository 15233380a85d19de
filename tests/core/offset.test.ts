import fc from 'fast-check';
import { memorySource } from '@/core/bytes/source';
import { probe } from '@/core/measure/probe';
import { worriesOf } from '@/core/measure/worries';
import { applySteps, encode, shaped, step } from './files';
import { errorDb, noise, sine } from './signals';

const RATE = 8_000;
const cure = [step('offset')];
const cured = async (...channels: Float32Array[]) => applySteps(cure, channels, undefined, RATE);

const mean = (x: Float32Array) => x.reduce((sum, v) => sum + v, 0) / x.length;
const largestStep = (x: Float32Array) =>
  x.reduce((most, v, i) => Math.max(most, Math.abs(v - (x[i - 1] ?? 0))), Math.abs(x.at(-1) ?? 0));

/** A tone that lies off the middle, silence on both sides of it. */
function offTone(offset: number, silent = RATE) {
  const tone = sine(RATE, 400, RATE, 0.3).map((x) => x + offset);
  const whole = new Float32Array(RATE + 2 * silent);
  whole.set(tone, silent);
  return whole;
}

test('a constant offset goes, to the very edges, and silence around it stays silent', async () => {
  const [out] = await cured(offTone(0.1));
  expect(out!.subarray(0, RATE).every((x) => x === 0)).toBe(true);
  expect(out!.subarray(2 * RATE).every((x) => x === 0)).toBe(true);
  expect(errorDb(out!, offTone(0), RATE, 2 * RATE)).toBeLessThan(-25);
  expect(Math.abs(mean(out!))).toBeLessThan(0.0005);
  expect(Math.abs(out![RATE]!)).toBeLessThan(0.01);
});

test('silence between two sounds with unlike offsets stays silent, and each is centred', async () => {
  const joined = new Float32Array(RATE * 5);
  joined.set(offTone(0.1, 0), 0);
  joined.set(offTone(-0.06, 0), RATE * 3);
  const [out] = await cured(joined);
  expect(out!.subarray(RATE, RATE * 3).every((x) => x === 0)).toBe(true);
  expect(Math.abs(mean(out!.subarray(0, RATE)))).toBeLessThan(0.001);
  expect(Math.abs(mean(out!.subarray(RATE * 3, RATE * 4)))).toBeLessThan(0.001);
});

test('an offset that wanders is followed', async () => {
  const drift = sine(RATE, 400, RATE * 4, 0.2).map((x, i) => x + 0.1 * Math.sin(i / (RATE * 2)));
  const [out] = await cured(drift);
  for (let at = RATE; at < RATE * 3; at += RATE / 2) {
    expect(Math.abs(mean(out!.subarray(at, at + RATE / 2)))).toBeLessThan(0.003);
  }
});

test('what lies in the middle already is not touched, down to 20 Hz', async () => {
  const rate = 8_000;
  for (const hz of [20, 55, 1_000]) {
    const faded = sine(rate, hz, rate * 4, 0.5).map(
      (x, i) => x * Math.sin((Math.PI * i) / (rate * 4)),
    );
    const [out] = await cured(faded);
    expect(errorDb(out!, faded)).toBeLessThan(-40);
  }
  expect(await cured(new Float32Array(2_000))).toEqual([new Float32Array(2_000)]);
});

test('a click that is only one-sided is not turned into two steps', async () => {
  const thump = Float32Array.from({ length: RATE / 4 }, (_, i) => 0.5 * Math.exp(-i / 200));
  const whole = new Float32Array(RATE);
  whole.set(thump, RATE / 2);
  const [out] = await cured(whole);
  expect(largestStep(out!)).toBeLessThanOrEqual(largestStep(whole) + 1e-6);
  expect(out!.subarray(0, RATE / 2).every((x) => x === 0)).toBe(true);
});

test('no sound gets a larger step at an edge, no silence a sample, whatever it is', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(
        fc.record({
          frames: fc.integer({ min: 1, max: 3_000 }),
          // Millionths: what is too small for a sample of 32 bits would be silence.
          offset: fc.integer({ min: -400_000, max: 400_000 }).map((x) => x / 1e6),
          amplitude: fc.integer({ min: 0, max: 500_000 }).map((x) => x / 1e6),
          silent: fc.integer({ min: 100, max: 900 }),
        }),
        { minLength: 1, maxLength: 5 },
      ),
      async (parts) => {
        const sound = parts.flatMap(({ frames, offset, amplitude, silent }, i) => [
          ...noise(frames, i + 1, amplitude).map((x) => x + offset || 1e-3),
          ...new Float32Array(silent),
        ]);
        const before = Float32Array.from(sound);
        const [after] = await cured(before);
        const isRight = before.map((x, i) => {
          const y = Math.abs(after![i]!);
          // Zeros that stand alone belong to the wave; the silences here are longer.
          const isEdge = (before[i - 1] ?? 0) === 0 || (before[i + 1] ?? 0) === 0;
          return Number(x === 0 ? y === 0 : !isEdge || y <= Math.abs(x) + 1e-6);
        });
        expect(isRight.indexOf(0)).toBe(-1);
      },
    ),
    { numRuns: 60 },
  );
});

test('from any frame on it gives the same samples', async () => {
  const source = await shaped(cure, [offTone(0.2), offTone(-0.1)], 1_000, RATE);
  const whole = await applySteps(cure, [offTone(0.2), offTone(-0.1)], 1_000, RATE);
  for (const start of [1, RATE - 1, RATE + 77, 2 * RATE + 3]) {
    let at = start;
    for await (const block of source.from(start)) {
      block.forEach((x, c) => expect(x).toEqual(whole[c]!.slice(at, at + x.length)));
      at += block[0]!.length;
    }
    expect(at).toBe(3 * RATE);
  }
});

test('what is taken is the mean under half a second of a Hann window; of the whole nothing is left', async () => {
  const hop = RATE / 200;
  const frames = 2 * RATE + 17;
  const drift = (i: number) => 0.1 + 0.05 * Math.sin(i / 3_000);
  const before = noise(frames, 4, 0.3).map((x, i) => x + drift(i));
  const [after] = await cured(before);
  const taken = before.map((x, i) => x - after![i]!);
  const plain = (at: number) => {
    let [sum, whole] = [0, 0];
    for (let k = Math.max(0, at - 50); k < at + 50 && k * hop < frames; k++) {
      const part = before.subarray(k * hop, (k + 1) * hop);
      const weight = Math.cos((Math.PI / 2) * ((k + 0.5 - at) / 50)) ** 2;
      sum += weight * part.reduce((total, x) => total + x, 0);
      whole += weight * part.length;
    }
    return sum / whole;
  };
  // Behind the 20 ms over which it comes in, and in front of those over which it goes.
  const last = Math.floor((frames - 1 - 160) / hop);
  const spread = taken[200 * hop]! - plain(200);
  expect(Math.abs(spread)).toBeLessThan(1e-3);
  for (let k = 4; k <= last; k++) {
    expect(Math.abs(taken[k * hop]! - plain(k) - spread)).toBeLessThan(2e-6);
    const quarter = 0.75 * taken[k * hop]! + 0.25 * taken[(k + 1) * hop]!;
    if (k < last) expect(Math.abs(taken[k * hop + hop / 4]! - quarter)).toBeLessThan(2e-6);
  }
  expect(Math.abs(mean(after!))).toBeLessThan(1e-7);
  // At the edges as much as is there, and no more than the mean.
  for (const [edge, at] of [
    [0, 0],
    [frames - 1, Math.ceil(frames / hop)],
  ] as const) {
    const most = before[edge]! > 0 ? Math.min(plain(at), before[edge]!) : 0;
    expect(Math.abs(taken[edge]! - most)).toBeLessThan(2e-6);
  }
  // Half of the way in, half of the difference is taken.
  const half = 2 * hop;
  const eased = taken[0]! + (plain(2) - taken[0]!) * 0.5 + spread * 0.5;
  expect(Math.abs(taken[half]! - eased)).toBeLessThan(2e-6);
});

test('a hundredth of a second of zeros parts two sounds, less is a wave that passes through the middle', async () => {
  const parted = async (zeros: number) => {
    const sound = new Float32Array(4_000 + zeros);
    sound.fill(0.2, 0, 2_000);
    sound.fill(0.1, 2_000 + zeros);
    const [out] = await cured(sound);
    return out!.subarray(2_000, 2_000 + zeros).every((x) => x === 0);
  };
  expect([await parted(80), await parted(79)]).toEqual([true, false]);
  // Where one channel is silent the other is cured all the same.
  const [silent, centred] = await cured(new Float32Array(RATE), offTone(0.1, 0));
  expect(silent).toEqual(new Float32Array(RATE));
  expect(Math.abs(mean(centred!))).toBeLessThan(1e-6);
});

test('nothing is spread over what is shorter than a tenth of a second', async () => {
  const left = async (frames: number) => {
    const [out] = await cured(Float32Array.from({ length: frames }, (_, i) => (i ? 0.2 : -0.1)));
    return Math.abs(mean(out!));
  };
  expect(await left(799)).toBeGreaterThan(1e-3);
  expect(await left(800)).toBeLessThan(1e-6);
});

test('the worry and its cure agree: what was cured is no worry any more', async () => {
  const isWorry = async (channels: Float32Array[]) => {
    const { facts } = await probe(memorySource(await encode(channels, RATE, 'wav', { bits: 32 })));
    return worriesOf(facts, null).some(({ code }) => code === 'dc-offset');
  };
  const sounds = [
    [offTone(0.05)],
    [offTone(0.05, 0), offTone(-0.3, 0)],
    [Float32Array.from({ length: RATE / 8 }, (_, i) => Math.exp(-i / 150))],
    [sine(RATE, 300, RATE, 0.5).map((x) => Math.max(0, x))],
  ];
  for (const sound of sounds) {
    expect(await isWorry(sound)).toBe(true);
    const out = await cured(...sound);
    expect(await isWorry(out)).toBe(false);
  }
  expect(await isWorry([Float32Array.from([0.5, 0.5, 0.4])])).toBe(false);
});
