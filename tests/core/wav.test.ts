import wavefile from 'wavefile';
import { decode, encode } from './files';
import { errorDb, gridNoise, sine } from './signals';

const { WaveFile } = wavefile;

test.each([
  ['8', 1 / 128],
  ['16', 1 / 32_768],
  ['24', 1 / 8_388_608],
  ['32', 1 / 2_147_483_648],
  ['32f', 1],
  ['64', 1],
])('reads what an independent package writes at depth %s', async (depth, unit) => {
  const integers = Array.from({ length: 2_000 }, (_, i) => Math.round(100 * Math.sin(i / 9)));
  const isFloat = unit === 1;
  const values = integers.map((x) => (isFloat ? x / 128 : depth === '8' ? x + 128 : x));
  const file = new WaveFile();
  file.fromScratch(2, 32_000, depth, [values, [...values].reverse()]);
  const { channels, header } = await decode(file.toBuffer());
  expect(header).toMatchObject({ sampleRateHz: 32_000, channels: 2, frames: 2_000 });
  expect([...channels[0]!].map((x) => x + 0)).toEqual(
    integers.map((x) => Math.fround(isFloat ? x / 128 : x * unit) + 0),
  );
  expect(channels[1]![0]).toBe(channels[0]![1_999]);
});

test.each([
  [16, 32_768],
  [24, 8_388_608],
  [32, 1],
] as const)('an independent package reads what we write at %i bits', async (bits, scale) => {
  const sound = [gridNoise(777, 16, 5), gridNoise(777, 16, 6)];
  const file = new WaveFile(await encode(sound, 44_100, 'wav', { bits }, 16));
  expect(file.fmt).toMatchObject({ numChannels: 2, sampleRate: 44_100, bitsPerSample: bits });
  const [left] = file.getSamples(false, Float64Array) as unknown as Float64Array[];
  expect([...left!].map((x) => x / scale + 0)).toEqual([...sound[0]!].map((x) => x + 0));
});

test('a reduction of depth is dithered: the error is noise, not distortion', async () => {
  // A tone far below one step of 16 bits vanishes without dither and stays with it.
  const quiet = sine(48_000, 1_000, 48_000, 0.4 / 32_768);
  const { channels } = await decode(await encode([quiet], 48_000, 'wav', { bits: 16 }));
  const correlation = channels[0]!.reduce((sum, x, i) => sum + x * quiet[i]!, 0);
  const power = quiet.reduce((sum, x) => sum + x * x, 0);
  expect(correlation / power).toBeGreaterThan(0.9);
  expect(correlation / power).toBeLessThan(1.1);
});

test('full scale is held, not wrapped', async () => {
  const loud = Float32Array.from([1, -1, 1.5, -1.5, 0]);
  const { channels } = await decode(await encode([loud], 44_100, 'wav', { bits: 24 }, 24));
  expect(errorDb(channels[0]!, Float32Array.from([1, -1, 1, -1, 0]))).toBeLessThan(-120);
});

test('chunks that are not known are passed over, with their padding', async () => {
  const plain = await encode([gridNoise(100, 16)], 44_100, 'wav', { bits: 16 }, 16);
  const odd = Uint8Array.from(
    [...'junk'].map((c) => c.charCodeAt(0)).concat([3, 0, 0, 0, 1, 2, 3, 0]),
  );
  const file = Buffer.concat([plain.subarray(0, 12), odd, plain.subarray(12)]);
  expect((await decode(file)).channels).toEqual((await decode(plain)).channels);
});
