import { decode, encode } from './files';
import { gridNoise } from './signals';

/** FLAC at any rate: what a frame's head cannot state stands in the stream's facts alone. */
test.each([1_000, 11_000, 65_535, 65_536, 88_201, 100_001, 200_003, 655_350, 655_360, 768_000])(
  '%i Hz',
  async (rateHz) => {
    const sound = [gridNoise(9_000, 16, 3), gridNoise(9_000, 16, 4)];
    const bytes = await encode(sound, rateHz, 'flac', { bits: 16 }, 16);
    const { header, warnings, channels } = await decode(bytes);
    expect(header).toMatchObject({ sampleRateHz: rateHz, frames: 9_000 });
    expect(warnings).toEqual([]);
    expect(channels).toEqual(sound);
  },
);

test('an odd rate with a tag or zeros behind the last frame', async () => {
  const sound = [gridNoise(9_000, 16, 3)];
  const bytes = await encode(sound, 88_201, 'flac', { bits: 16 }, 16);
  for (const behind of [Buffer.alloc(300), Buffer.from(`TAG${'x'.repeat(125)}`)]) {
    const { channels } = await decode(Buffer.concat([bytes, behind]));
    expect(channels).toEqual(sound);
  }
});

test('from the middle of an odd rate it is the rest of the whole', async () => {
  const sound = [gridNoise(20_000, 24, 3)];
  const bytes = await encode(sound, 100_001, 'flac', { bits: 24 }, 24);
  const { channels } = await decode(bytes, 7_777);
  expect(channels[0]).toEqual(sound[0]!.slice(7_777));
});
