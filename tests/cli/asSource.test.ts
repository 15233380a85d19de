import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { parseBuffer } from 'music-metadata';
import wavefile from 'wavefile';
import { writers } from '@/core/formats';
import { holdsRate, rateFor } from '@/core/formats/rates';
import { sine } from '../core/signals';
import { cleanUp, temporaryFolder } from '../server/folder';
import { bijou, words } from './run';

afterAll(cleanUp);

/** Everything is converted to everything; what comes out is looked at by packages of others. */

const RATES = [1_000, 4_000, 7_350, 11_000, 22_100, 37_800, 64_000, 192_000];
const DEPTHS = ['8', '16', '24', '32', '32f', '64'] as const;

/** A WAV file that a package of others wrote. */
function foreignWav(rateHz: number, depth: string, channels = 1): Uint8Array {
  const wav = new wavefile.WaveFile();
  const samples = sine(rateHz, rateHz / 20, rateHz, 0.4);
  const scale = depth === '32f' || depth === '64' ? 1 : 2 ** (Number(depth) - 1) - 1;
  const offset = depth === '8' ? 128 : 0;
  const ints = Array.from(samples, (x) => (scale === 1 ? x : Math.round(x * scale) + offset));
  wav.fromScratch(
    channels,
    rateHz,
    depth,
    channels === 1 ? ints : Array.from({ length: channels }, () => ints),
  );
  return wav.toBuffer();
}

interface Result {
  file: string;
  output: string;
  sampleRateHz: number;
  channels: number;
  bitDepth: number | null;
  codec: string;
  frames: number;
  notes: string[];
}

async function sounds(files: Record<string, Uint8Array>): Promise<string> {
  const folder = await temporaryFolder();
  await mkdir(join(folder, 'in'));
  for (const [name, bytes] of Object.entries(files))
    await writeFile(join(folder, 'in', name), bytes);
  return folder;
}

/** Converts the folder "in". */
async function converted(folder: string, ...options: string[]) {
  const ran = await bijou(folder, ...words('convert in --out out --json'), ...options);
  return { ...ran, results: JSON.parse(ran.out) as Result[] };
}

describe('odd rates', () => {
  const bySource = Object.fromEntries(RATES.map((hz) => [`${hz}.wav`, foreignWav(hz, '16')]));

  test.each(
    writers.map(({ format, codec, legal, container }) => ({ format, codec, legal, container })),
  )(
    '$format with $codec holds each rate as it is, or at the next higher one',
    async ({ format, codec, legal, container }) => {
      const folder = await sounds(bySource);
      const { status, results, err } = await converted(
        folder,
        '--format',
        format,
        '--codec',
        codec,
      );
      expect([status, results.length]).toEqual([0, RATES.length]);
      for (const { file, output, sampleRateHz, notes } of results) {
        const from = Number(/(\d+)\.wav$/.exec(file)![1]);
        const to = rateFor(legal.rates, from);
        expect([from, sampleRateHz]).toEqual([from, to]);
        const isKept = holdsRate(legal.rates, from);
        expect(notes.some((note) => note.startsWith('Resampled'))).toBe(!isKept);
        if (container === 'raw' || container === 'c') continue;
        const { format: found } = await parseBuffer(await readFile(join(folder, output)));
        // An Opus file states the rate that its source had; MP4 has a field for rates below 65,536 Hz.
        if (codec !== 'opus' && to < 65_536) expect(found.sampleRate).toBe(to);
        if (found.duration !== undefined && container !== 'mp3') {
          // This reader does not look at the edit list, which leaves the priming out.
          const priming = container === 'mp4' ? 2_048 / to : 0;
          expect(Math.abs(found.duration - priming - 1)).toBeLessThan(0.2);
        }
      }
      expect(err).toBe('');
    },
  );

  test('what was resampled is said in one line, and refused when strict', async () => {
    const folder = await sounds(bySource);
    const opus = ['--format', 'ogg', '--codec', 'opus'];
    const said = await bijou(folder, 'convert', 'in', '--out', 'a', ...opus);
    expect(said.err).toMatch(
      /^8 files resampled, from 1,000 to 48,000 Hz \(1\), .*: Ogg Opus cannot hold them as they are\.$/m,
    );
    const strict = await bijou(folder, 'convert', 'in', '--out', 'b', ...opus, '--strict');
    expect(strict.status).toBe(1);
    expect(strict.err).toMatch(/^8 files: Ogg Opus cannot hold .*Resample to 48000 Hz/m);
  });
});

describe('depths', () => {
  const bySource = Object.fromEntries(
    DEPTHS.map((depth) => [`${depth}.wav`, foreignWav(8_000, depth)]),
  );
  const kept: Record<string, Record<string, string>> = {
    wav: {
      '8': '8 pcm',
      '16': '16 pcm',
      '24': '24 pcm',
      '32': '32 float',
      '32f': '32 float',
      '64': '32 float',
    },
    flac: {
      '8': '8 flac',
      '16': '16 flac',
      '24': '24 flac',
      '32': '24 flac',
      '32f': '24 flac',
      '64': '24 flac',
    },
    aiff: {
      '8': '8 pcm',
      '16': '16 pcm',
      '24': '24 pcm',
      '32': '24 pcm',
      '32f': '24 pcm',
      '64': '24 pcm',
    },
    raw: {
      '8': '8 pcm',
      '16': '16 pcm',
      '24': '16 pcm',
      '32': '16 pcm',
      '32f': '16 pcm',
      '64': '16 pcm',
    },
  };

  test.each(Object.keys(kept))('%s keeps the depth, or has the nearest', async (format) => {
    const folder = await sounds(bySource);
    const { status, results } = await converted(folder, '--format', format);
    expect(status).toBe(0);
    for (const { file, output, bitDepth, codec, notes } of results) {
      const depth = /in\/(.+)\.wav$/.exec(file)![1]!;
      const wanted = kept[format]![depth]!;
      expect([depth, `${bitDepth} ${codec}`]).toEqual([depth, wanted]);
      const isKept = depth === String(parseInt(wanted)) + (wanted.endsWith('float') ? 'f' : '');
      expect([depth, notes.some((note) => note.startsWith('Stored'))]).toEqual([depth, !isKept]);
      if (format === 'raw') continue;
      const { format: found } = await parseBuffer(await readFile(join(folder, output)));
      expect(found.bitsPerSample).toBe(parseInt(wanted));
    }
  });

  test('samples of a kept depth are the very same', async () => {
    const folder = await sounds({ '8.wav': bySource['8.wav']!, '24.wav': bySource['24.wav']! });
    await converted(folder, '--format', 'wav');
    for (const name of ['8.wav', '24.wav']) {
      const [before, after] = await Promise.all(
        ['in', 'out'].map(
          async (at) => new wavefile.WaveFile(await readFile(join(folder, at, name))),
        ),
      );
      expect(after!.getSamples()).toEqual(before!.getSamples());
    }
  });

  test('what was lossy comes to 16 bits, or to 24 when that is asked', async () => {
    const folder = await sounds({ 'a.wav': foreignWav(44_100, '24') });
    await bijou(folder, ...words('convert in/a.wav --out lossy --format mp3'));
    for (const [bits, options] of [
      [16, []],
      [24, ['--bits', '24']],
    ] as const) {
      const ran = await bijou(
        folder,
        'convert',
        'lossy/a.mp3',
        '--out',
        `o${bits}`,
        '--json',
        ...options,
      );
      expect(JSON.parse(ran.out)).toMatchObject([{ bitDepth: bits, notes: [] }]);
    }
  });
});

test('more channels than a format holds are mixed; a bit rate that nobody asked for fits', async () => {
  const folder = await sounds({ 'six.wav': foreignWav(8_000, '16', 6) });
  const { results } = await converted(folder, '--format', 'mp3');
  expect(results).toMatchObject([
    {
      channels: 2,
      notes: [
        'Mixed from 5.1 to stereo: MP3 cannot hold 5.1.',
        'Encoded at 64 kbit/s in place of 192 kbit/s: MP3 has no 192 kbit/s at 8,000 Hz.',
      ],
    },
  ]);
  const asked = await bijou(folder, ...words('convert in --out b --format mp3 --bitrate 192'));
  expect(asked).toMatchObject({
    status: 1,
    err: expect.stringMatching(/The nearest is 64 kbit\/s/),
  });
});
