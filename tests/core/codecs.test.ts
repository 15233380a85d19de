import { decode, encode } from './files';
import { errorDb, gridNoise, sine } from './signals';

const lossy: [writer: string, settings: object, errorBelowDb: number][] = [
  ['mp3', { kbps: 128 }, -35],
  ['mp3', { kbps: 192 }, -35],
  ['mp3', { quality: 2 }, -35],
  ['ogg', { quality: 5 }, -35],
  ['m4a', { kbps: 160 }, -25],
];
const lengths = [1, 2, 1151, 1152, 1153, 44_100, 100_003];

describe.each(lossy)('%s %j', (writer, settings, errorBelowDb) => {
  test.each(lengths)('gives back exactly %i frames, mono and stereo', async (frames) => {
    for (const count of [1, 2]) {
      const channels = Array.from({ length: count }, (_, c) => sine(44_100, 440 * (c + 1), frames));
      const {
        channels: back,
        header,
        warnings,
      } = await decode(await encode(channels, 44_100, writer, settings));
      expect(warnings).toEqual([]);
      expect(back.map((c) => c.length)).toEqual(Array(count).fill(frames));
      expect(header).toMatchObject({ sampleRateHz: 44_100, channels: count, frames });
    }
  });

  test('keeps level, polarity, sides and place', async () => {
    const channels = [sine(44_100, 523, 60_000, 0.4), sine(44_100, 331, 60_000, 0.2)];
    const { channels: back } = await decode(await encode(channels, 44_100, writer, settings));
    back.forEach((channel, c) => {
      expect(errorDb(channel, channels[c]!, 5_000, 55_000)).toBeLessThan(errorBelowDb);
    });
  });

  test.each([8_000, 22_050, 32_000, 48_000])('works at %i Hz', async (rateHz) => {
    const low = 'kbps' in settings ? { kbps: 48 } : settings;
    const bytes = await encode([sine(rateHz, 300, 20_000)], rateHz, writer, low);
    const { channels: back, header } = await decode(bytes);
    expect(back[0]!.length).toBe(20_000);
    expect(header.sampleRateHz).toBe(rateHz);
  });

  test('gives the same bytes for the same sound', async () => {
    const channels = [sine(44_100, 700, 30_000)];
    const first = await encode(channels, 44_100, writer, settings);
    const second = await encode(channels, 44_100, writer, settings);
    expect(Buffer.compare(first, second)).toBe(0);
  });
});

describe.each([16, 24, 32] as const)('wav %i', (bits) => {
  test.each(lengths)('is bit-identical at %i frames', async (frames) => {
    const grid = bits === 32 ? 24 : bits;
    const channels = [gridNoise(frames, grid, 1), gridNoise(frames, grid, 2)];
    const bytes = await encode(channels, 48_000, 'wav', { bits }, grid);
    const { channels: back, warnings } = await decode(bytes);
    expect(warnings).toEqual([]);
    back.forEach((channel, c) =>
      expect(Buffer.from(channel.buffer).equals(Buffer.from(channels[c]!.buffer))).toBe(true),
    );
  });
});
