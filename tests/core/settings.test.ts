import { parseBuffer } from 'music-metadata';
import { writers } from '@/core/formats';
import { legalKbps, mp3Writer } from '@/core/formats/mp3/writer';
import { tonesAndNoise } from '../../tools/bench/signal';
import { encode } from './files';

/** Settings do what they say: files are as large as was asked for, and more costs more. */

const music = (rateHz: number, channels: number, seconds: number) =>
  tonesAndNoise(rateHz, seconds, channels).map((x) => x.slice(0, Math.round(seconds * rateHz)));

async function sizes(
  writer: string,
  settings: object[],
  rateHz: number,
  channels: number,
  seconds: number,
) {
  const sound = music(rateHz, channels, seconds);
  const found: number[] = [];
  for (const each of settings) found.push((await encode(sound, rateHz, writer, each)).length);
  return found;
}

/** Every size is larger than the one before, but for a share that codecs may fall back by. */
function expectGrowing(found: readonly number[], slack = 0): void {
  const falls = found.filter((size, i) => i > 0 && size <= found[i - 1]! * (1 - slack));
  expect([found, falls]).toEqual([found, []]);
}

const kbit = (bytes: number, seconds: number) => (bytes * 8) / seconds / 1_000;

describe.each(['ogg-opus', 'webm'])('%s', (writer) => {
  test.each([1, 2])(
    'with %i channels comes to the bit rate that was asked for',
    async (channels) => {
      const asked = [24, 32, 48, 64, 96, 128, 192, 256];
      const found = await sizes(writer, asked.map((kbps) => ({ kbps })), 48_000, channels, 5); // prettier-ignore
      // A block of WebM has seven bytes of its own; the bit rate is that of the sound.
      const container = writer === 'webm' ? kbit(7 * 250 + 600, 5) : 0;
      const ratios = found.map((bytes, i) => (kbit(bytes, 5) - container) / asked[i]!);
      expect(ratios.filter((ratio) => Math.abs(ratio - 1) > 0.1)).toEqual([]);
      expectGrowing(found);
      const low = [6, 8, 12, 16, 20];
      expectGrowing(await sizes(writer, low.map((kbps) => ({ kbps })), 48_000, channels, 2)); // prettier-ignore
    },
  );
});

describe('MP3', () => {
  const mp3Rates = mp3Writer.legal.rates as readonly number[];
  test.each(mp3Rates)('at %i Hz has every bit rate that is legal, and no other', async (rateHz) => {
    for (const [i, kbps] of legalKbps(rateHz).entries()) {
      // Long enough for the frames to outweigh the information frame.
      const sound = music(
        rateHz,
        1 + ((i + mp3Rates.indexOf(rateHz)) % 2),
        Math.max(0.1, 6 / kbps),
      );
      const bytes = await encode(sound, rateHz, 'mp3', { kbps });
      const { format } = await parseBuffer(bytes, { mimeType: 'audio/mpeg' });
      expect([kbps, format.bitrate, format.codecProfile]).toEqual([kbps, kbps * 1_000, 'CBR']);
    }
    for (const kbps of [56, 57, 144].filter((each) => !legalKbps(rateHz).includes(each))) {
      await expect(encode(music(rateHz, 1, 0.1), rateHz, 'mp3', { kbps })).rejects.toMatchObject({
        code: 'not-legal',
        message: expect.not.stringMatching(/it has.* (56|144),/),
      });
    }
  });

  test('a better quality takes more bytes', async () => {
    const qualities = [9, 7, 5, 3, 0].map((quality) => ({ quality }));
    expectGrowing(await sizes('mp3', qualities, 44_100, 2, 2));
  });
});

test('Vorbis: a better quality takes more bytes, at usual and at odd ends', async () => {
  const qualities = [-1, 0, 2, 4, 5, 7, 9, 10].map((quality) => ({ quality }));
  for (const [rateHz, channels] of [[44_100, 2], [8_000, 1], [192_000, 1]] as const) {
    expectGrowing(await sizes('ogg', qualities, rateHz, channels, 0.5));
  }
}); // prettier-ignore

test('AAC comes to what was asked for where the sound needs it', async () => {
  for (const [rateHz, channels, asked] of [
    [44_100, 1, [32, 64, 128, 192]],
    [48_000, 2, [48, 96, 192, 320]],
    [96_000, 2, [64, 128, 320]],
    [8_000, 1, [16, 24, 32]],
  ] as const) {
    const found = await sizes('m4a', asked.map((kbps) => ({ kbps })), rateHz, channels, 4); // prettier-ignore
    expectGrowing(found);
    found.forEach((bytes, i) => {
      // 1 kB and 8 bytes a packet are the container's.
      const most = asked[i]! * 1.1 + kbit(1_000 + 8 * ((4 * rateHz) / 1_024), 4) + 30 / 4;
      expect(kbit(bytes, 4)).toBeGreaterThan(asked[i]! * 0.9);
      expect(kbit(bytes, 4)).toBeLessThan(most);
    });
  }
});

test('M4A: the container takes less than 1 kB and 8 bytes a packet, and has no filler', async () => {
  for (const seconds of [0.1, 3, 30]) {
    const bytes = await encode(music(8_000, 1, seconds), 8_000, 'm4a', { kbps: 32 });
    const data = Buffer.from(bytes).indexOf('mdat') - 4;
    const packets = 2 + Math.ceil((seconds * 8_000) / 1_024);
    expect(data).toBeLessThan(1_000 + 8 * packets);
  }
});

test('FLAC: a higher level takes no more bytes, and more bits take more', async () => {
  for (const bits of [16, 24]) {
    const levels = [8, 5, 3, 0].map((level) => ({ bits, level }));
    expectGrowing(await sizes('flac', levels, 44_100, 2, 1), 0.02);
  }
  expectGrowing(await sizes('flac', [{ bits: 16 }, { bits: 24 }], 44_100, 1, 1));
});

test('depths take their bytes exactly', async () => {
  const wav = await sizes('wav', [8, 16, 24, 32].map((bits) => ({ bits })), 8_000, 1, 1); // prettier-ignore
  expect(wav.map((size, i) => size - 8_000 * (i + 1))).toEqual([44, 44, 44, 58]);
  const raw = await sizes('raw', [{ encoding: 'u8' }, { encoding: 's16le' }], 8_000, 2, 1);
  expect(raw).toEqual([16_000, 32_000]);
});

test('every writer has its settings tried here or has none', () => {
  const tried = ['wav', 'aiff', 'flac', 'mp3', 'ogg', 'ogg-opus', 'webm', 'm4a', 'raw', 'c'];
  const withSettings = writers.filter(({ settings }) => Object.keys(settings.fields).length > 0);
  expect(withSettings.map(({ id }) => id)).toEqual(tried);
});
