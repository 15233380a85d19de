import { legalityRefusal } from '@/core/formats/legality';
import { writers } from '@/core/formats';
import { writerById } from '@/core/formats/write';
import { readerOf } from './files';
import { gridNoise, sine } from './signals';
import { collectChannels } from '@/core/pcm/pcm';

/** The bar: what is decoded has exactly the frames that were encoded, in every format that can be written. */
const settings: Record<string, object> = {
  wav: { bits: 16 },
  'wav-ima-adpcm': {},
  aiff: { bits: 16 },
  flac: { bits: 16, level: 5 },
  mp3: { quality: 4 },
  ogg: { quality: 4 },
  'ogg-opus': { kbps: 64 },
  webm: { kbps: 64 },
  m4a: { kbps: 32 },
  raw: { encoding: 's16le' },
  c: { encoding: 'u8' },
};
const rates = [8_000, 11_025, 22_050, 32_000, 44_100, 48_000, 96_000];
const lengths = [1, 1_151, 1_152, 1_153, 4_097, 30_011];
/** A third of the lengths, another one with every rate and number of channels: each writer gets all of them. */
const someLengths = (rateHz: number, channels: number) =>
  lengths.filter((_, i) => (i + rates.indexOf(rateHz) + channels) % 3 === 0);

test('every writer is in the table', () => {
  expect(Object.keys(settings).sort()).toEqual(writers.map((kind) => kind.id).sort());
});

describe.each(Object.keys(settings))('%s', (writer) => {
  test.each(rates)('at %i Hz', async (rateHz) => {
    for (const channels of [1, 2]) {
      if (legalityRefusal(writerById(writer), rateHz, channels)) continue;
      for (const frames of someLengths(rateHz, channels)) {
        const sound = Array.from({ length: channels }, (_, c) =>
          sine(rateHz, 300 * (c + 1), frames),
        );
        const reader = await readerOf(sound, rateHz, writer, settings[writer]!);
        const decoded = await collectChannels(reader.pcm());
        expect([writer, rateHz, decoded.map((channel) => channel.length)]).toEqual([
          writer,
          rateHz,
          Array(channels).fill(frames),
        ]);
        expect(reader.header).toMatchObject({ sampleRateHz: rateHz, channels, frames });
        expect(reader.warnings).toEqual([]);
      }
    }
  });
});

describe('lossless formats give back the very samples', () => {
  test.each([
    ['wav', { bits: 8 }, 8],
    ['wav', { bits: 16 }, 16],
    ['wav', { bits: 24 }, 24],
    ['wav', { bits: 32 }, 24],
    ['aiff', { bits: 16 }, 16],
    ['aiff', { bits: 24 }, 24],
    ...[0, 3, 5, 8].flatMap((level) => [
      ['flac', { bits: 16, level }, 16] as const,
      ['flac', { bits: 24, level }, 24] as const,
    ]),
    ['raw', { encoding: 'u8' }, 8],
    ['raw', { encoding: 's8' }, 8],
    ['raw', { encoding: 's16le' }, 16],
    ['c', { encoding: 'u8' }, 8],
    ['c', { encoding: 's8' }, 8],
    ['c', { encoding: 's16le' }, 16],
  ] as const)('%s %j', async (writer, chosen, bits) => {
    for (const frames of lengths) {
      const sound = [gridNoise(frames, bits, 1), gridNoise(frames, bits, 2)];
      const reader = await readerOf(sound, 48_000, writer, chosen, bits);
      const decoded = await collectChannels(reader.pcm());
      expect(reader.warnings).toEqual([]);
      decoded.forEach((channel, c) =>
        expect(Buffer.from(channel.buffer).equals(Buffer.from(sound[c]!.buffer))).toBe(true),
      );
    }
  });

  test.each(['wav', 'aiff', 'flac'])('%s carries eight channels', async (writer) => {
    const sound = Array.from({ length: 8 }, (_, c) => gridNoise(5_000, 24, c + 1));
    const reader = await readerOf(sound, 48_000, writer, { bits: 24 }, 24);
    expect(reader.header.speakers).toEqual(['L', 'R', 'C', 'LFE', 'Lb', 'Rb', 'Ls', 'Rs']);
    const decoded = await collectChannels(reader.pcm());
    sound.forEach((channel, c) =>
      expect(Buffer.from(decoded[c]!.buffer).equals(Buffer.from(channel.buffer))).toBe(true),
    );
  });
});
