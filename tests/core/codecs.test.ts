import { decode, encode } from './files';
import { errorDb, sine } from './signals';

/** Frames are counted in `exact.test.ts`. */
const lossy: [writer: string, settings: object, errorBelowDb: number][] = [
  ['mp3', { kbps: 128 }, -35],
  ['mp3', { kbps: 192 }, -35],
  ['mp3', { quality: 2 }, -35],
  ['ogg', { quality: 5 }, -35],
  ['m4a', { kbps: 160 }, -25],
];

describe.each(lossy)('%s %j', (writer, settings, errorBelowDb) => {
  test('keeps level, polarity, sides and place', async () => {
    const channels = [sine(44_100, 523, 60_000, 0.4), sine(44_100, 331, 60_000, 0.2)];
    const { channels: back } = await decode(await encode(channels, 44_100, writer, settings));
    back.forEach((channel, c) => {
      expect(errorDb(channel, channels[c]!, 5_000, 55_000)).toBeLessThan(errorBelowDb);
    });
  });

  test('gives the same bytes for the same sound', async () => {
    const channels = [sine(44_100, 700, 30_000)];
    const first = await encode(channels, 44_100, writer, settings);
    const second = await encode(channels, 44_100, writer, settings);
    expect(Buffer.compare(first, second)).toBe(0);
  });
});

test('encoders are loaded without the network, which is there again afterwards', async () => {
  const { fetch } = globalThis;
  const asked = jest.fn();
  globalThis.fetch = asked;
  try {
    for (const writer of ['mp3', 'ogg', 'flac']) {
      await encode([sine(44_100, 700, 3_000)], 44_100, writer, {});
      expect(globalThis.fetch).toBe(asked);
    }
    expect(asked).not.toHaveBeenCalled();
  } finally {
    globalThis.fetch = fetch;
  }
});
