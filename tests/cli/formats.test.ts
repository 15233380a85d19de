import { mkdir, readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { encode } from '../core/files';
import { noise, sine } from '../core/signals';
import { cleanUp, temporaryFolder } from '../server/folder';
import { bijou, bijouFed } from './run';

afterAll(cleanUp);

type Json = Record<string, unknown>;

async function folderWith(sounds: Record<string, Uint8Array>) {
  const folder = await temporaryFolder();
  await Promise.all(
    Object.entries(sounds).map(([name, bytes]) => writeFile(join(folder, name), bytes)),
  );
  return folder;
}

const bell = () =>
  encode([sine(48_000, 440, 48_000, 0.3), sine(48_000, 660, 48_000, 0.3)], 48_000, 'wav', {
    bits: 16,
  });

/** Converts `bell.wav` and answers what was reported of the result. */
async function converted(
  ...options: string[]
): Promise<{ folder: string; result: Json; err: string }> {
  const folder = await folderWith({ 'bell.wav': await bell() });
  const ran = await bijou(folder, 'convert', 'bell.wav', '--out', 'out', '--json', ...options);
  if (ran.status !== 0) throw new Error(ran.err);
  return { folder, result: (JSON.parse(ran.out) as Json[])[0]!, err: ran.err };
}

test.each([
  [['wav', '--bits', '8'], { container: 'wav', codec: 'pcm', bitDepth: 8 }, 'bell.wav'],
  [['wav', '--codec', 'ima-adpcm'], { container: 'wav', codec: 'ima-adpcm' }, 'bell.wav'],
  [['aiff', '--bits', '16'], { container: 'aiff', bitDepth: 16 }, 'bell.aiff'],
  [['flac', '--level', '8', '--bits', '24'], { container: 'flac', bitDepth: 24 }, 'bell.flac'],
  [['ogg'], { container: 'ogg', codec: 'vorbis' }, 'bell.ogg'],
  [['ogg', '--codec', 'opus', '--bitrate', '48'], { container: 'ogg', codec: 'opus' }, 'bell.opus'],
  [['webm', '--bitrate', '24'], { container: 'webm', codec: 'opus' }, 'bell.webm'],
  [['m4a', '--codec', 'aac'], { container: 'mp4', codec: 'aac' }, 'bell.m4a'],
  [
    ['raw', '--bits', 'u8', '--rate', '8000', '--channels', 'mono'],
    { container: 'raw', bitDepth: 8, frames: 8_000 },
    'bell.raw',
  ],
  [
    ['c', '--bits', 's8', '--rate', '8000', '--channels', 'left'],
    { container: 'c', channels: 1, frames: 8_000 },
    'bell.h',
  ],
])('--format %j', async (options, wanted, name) => {
  const { folder, result } = await converted('--format', ...options);
  expect(result).toMatchObject({ frames: 48_000, ...wanted });
  expect(await readdir(join(folder, 'out'))).toEqual([name]);
});

test('raw bytes are exactly the samples, and come back when they are described', async () => {
  const { folder } = await converted('--format', 'raw', '--bits', 's16le', '--channels', 'left');
  const raw = await readFile(join(folder, 'out', 'bell.raw'));
  expect(raw.length).toBe(96_000);
  const back = await bijou(folder, 'probe', '--raw', 's16le,48000,1', '--json', 'out/bell.raw');
  expect(JSON.parse(back.out)).toMatchObject([{ container: 'raw', frames: 48_000, usedBits: 16 }]);
  expect((await bijou(folder, 'probe', '--raw', 'x', 'out/bell.raw')).status).toBe(2);
});

test('levels, fades, tags, suffix and relabelling do what they say', async () => {
  const loud = await converted('--normalise', 'true-peak=-1', '--bits', '24', '--suffix', '-tp');
  expect(loud.result).toMatchObject({ output: join('out', 'bell-tp.wav') });
  expect(loud.result['truePeakDbtp']).toBeCloseTo(-1, 1);
  const lufs = await converted('--normalise', 'lufs=-20', '--gain', '3', '--bits', '24');
  expect(lufs.result['lufs']).toBeCloseTo(-20, 1);
  const peak = await converted(
    '--normalise',
    'peak=-6',
    '--fade-out',
    '0.5,s',
    '--tag',
    'title=Bell',
    '--bits',
    '32f',
  );
  expect(peak.result).toMatchObject({ tags: { title: 'Bell' } });
  expect(peak.result['peakDbfs']).toBeCloseTo(-6, 3);
  const file = await readFile(join(peak.folder, 'out', 'bell.wav'));
  const end = file.indexOf('data') + 8 + 48_000 * 8;
  expect([file.readFloatLE(end - 4), file.readFloatLE(end - 8)]).toEqual([0, 0]);
  const slow = await converted('--relabel', '24000');
  expect(slow.result).toMatchObject({ sampleRateHz: 24_000, frames: 48_000, seconds: 2 });
  const fast = await converted(
    '--speed',
    '2',
    '--reverse',
    '--polarity',
    '--remove-dc',
    '--declick',
  );
  expect(fast.result).toMatchObject({ sampleRateHz: 48_000, frames: 24_000 });
});

test('what lies above full scale is said, and held below it when that is asked for', async () => {
  const loud = await converted('--gain', '20', '--format', 'ogg');
  expect(loud.err).toMatch(
    /samples above full scale, which players cut off: .* [\d.]+ dB above it/,
  );
  const limited = await converted('--gain', '20', '--limit', '-1', '--bits', '24');
  expect(limited.err).toMatch(/loudest moments were turned down by up to [\d.]+ dB/);
  expect(limited.result['truePeakDbtp']).toBeLessThanOrEqual(-1);
  expect(limited.result['truePeakDbtp']).toBeGreaterThan(-1.5);
});

test('a sound that is too short to have a loudness is brought to one, if that is asked for', async () => {
  const short = ['--to', '0.2', '--normalise', 'lufs=-20', '--bits', '24'];
  await expect(converted(...short)).rejects.toThrow(/too short/);
  const momentary = await converted(...short, '--if-short', 'momentary');
  expect(momentary.err).toMatch(/its loudest moment was brought to −20 LUFS instead/);
  const peak = await converted(...short, '--if-short', 'peak');
  expect(peak.result['truePeakDbtp']).toBeCloseTo(-1, 1);
});

test('a sound is split into a file for each channel', async () => {
  const folder = await folderWith({
    'six.wav': await encode(
      Array.from({ length: 6 }, (_, c) => noise(4_800, c + 1)),
      48_000,
      'wav',
      { bits: 16 },
    ),
  });
  const ran = await bijou(
    folder,
    'convert',
    'six.wav',
    '--out',
    'out',
    '--channels',
    'split',
    '--json',
  );
  expect(ran.status).toBe(0);
  expect(await readdir(join(folder, 'out'))).toEqual([1, 2, 3, 4, 5, 6].map((n) => `six-${n}.wav`));
  const [{ outputs }] = JSON.parse(ran.out) as [{ outputs: Json[] }];
  expect(outputs.map(({ channels }) => channels)).toEqual([1, 1, 1, 1, 1, 1]);
});

test('tags are kept, replaced and stripped; what has no place is said', async () => {
  const first = await converted('--format', 'flac', '--tag', 'title=Storm', '--tag', 'year=2026');
  const again = async (...options: string[]) => {
    const ran = await bijou(
      first.folder,
      'convert',
      'out/bell.flac',
      '--out',
      'two',
      '--overwrite',
      '--json',
      ...options,
    );
    return { tags: (JSON.parse(ran.out) as Json[])[0]!['tags'], err: ran.err };
  };
  expect((await again('--format', 'mp3')).tags).toEqual({ title: 'Storm', year: '2026' });
  expect((await again('--format', 'ogg', '--tag', 'title=Calm')).tags).toEqual({
    title: 'Calm',
    year: '2026',
  });
  expect((await again('--format', 'aiff', '--strip-tags')).tags).toEqual({});
  expect((await again('--format', 'raw')).err).toMatch(/no place for the tags/);
});

test('standard streams: bytes in, bytes out, words beside', async () => {
  const folder = await temporaryFolder();
  const wav = await bell();
  const out = await bijouFed(
    wav,
    {},
    folder,
    'convert',
    '-',
    '--out',
    '-',
    '--format',
    'flac',
    '--bits',
    '16',
  );
  expect(out.status).toBe(0);
  expect(out.bytes.subarray(0, 4).toString()).toBe('fLaC');
  expect(out.err).toMatch(/bytes/);
  const probed = await bijouFed(out.bytes, {}, folder, 'probe', '--json', '-');
  expect(JSON.parse(probed.out)).toMatchObject([{ file: '-', container: 'flac', frames: 48_000 }]);
  const named = await bijouFed(wav, {}, folder, 'convert', '-', '--out', 'out', '--format', 'mp3');
  expect(named.status).toBe(0);
  expect(await readdir(join(folder, 'out'))).toEqual(['stdin.mp3']);
  expect(await bijouFed(new Uint8Array(0), {}, folder, 'probe', '-')).toMatchObject({ status: 1 });
});

test('when strict, what is not legal is refused before anything is written, with what would be', async () => {
  const folder = await folderWith({
    'a.wav': await encode([noise(4_410)], 44_100, 'wav', { bits: 16 }),
  });
  const call = ['convert', 'a.wav', '--out', 'out', '--format', 'webm', '--strict'];
  const ran = await bijou(folder, ...call);
  expect(ran).toMatchObject({ status: 1, err: expect.stringMatching(/48000 Hz/) });
  expect(await readdir(join(folder, 'out'))).toEqual([]);
});

test.each([
  [['--format', 'webm', '--codec', 'vorbis']],
  [['--format', 'flac', '--bitrate', '128']],
  [['--format', 'flac', '--bits', '12']],
  [['--normalise', 'loud']],
  [['--normalise', 'lufs=5']],
  [['--ceiling', '-1']],
  [['--if-short', 'peak']],
  [['--normalise', 'lufs=-16', '--if-short', 'maybe']],
  [['--limit', '3']],
  [['--fade-in', '1,zigzag']],
  [['--tag', 'mood=grim']],
  [['--relabel', '3']],
  [['--raw', 's16le']],
  [['--gain', 'much']],
])('a wrong call is status 2: %j', async (options) => {
  const folder = await folderWith({ 'bell.wav': await bell() });
  const ran = await bijou(folder, 'convert', 'bell.wav', '--out', 'x', ...options);
  expect(ran).toMatchObject({ status: 2, out: '' });
  expect(await readdir(folder)).toEqual(['bell.wav']);
});

test('two results never go to standard output', async () => {
  const folder = await folderWith({ 'a.wav': await bell(), 'b.wav': await bell() });
  expect((await bijou(folder, 'convert', 'a.wav', 'b.wav', '--out', '-')).status).toBe(2);
});

test('formats prints what is legal, and every pair can be asked for by it', async () => {
  const folder = await temporaryFolder();
  const lines = await bijou(folder, 'formats');
  expect(lines.out).toMatch(/--format ogg --codec opus +6 to 256 kbit\/s/);
  const { reads, writes } = JSON.parse((await bijou(folder, 'formats', '--json')).out) as {
    reads: Json[];
    writes: { format: string; codec: string; rates: number[] | null; channels: number[] }[];
  };
  expect(reads.length).toBeGreaterThan(8);
  await mkdir(join(folder, 'out'));
  await writeFile(join(folder, 's.wav'), await encode([noise(2_400)], 48_000, 'wav', { bits: 16 }));
  for (const { format, codec, rates, channels } of writes) {
    expect(channels).toContain(1);
    const rate = rates?.[0] ?? 48_000;
    const ran = await bijou(
      folder,
      'convert',
      's.wav',
      '--out',
      `out/${format}-${codec}`,
      '--format',
      format,
      '--codec',
      codec,
      '--rate',
      String(rate),
      ...(format === 'm4a' ? ['--bitrate', '32'] : []),
      ...(format === 'mp3' ? ['--bitrate', '32'] : []),
    );
    expect([format, codec, ran.status, ran.err]).toEqual([format, codec, 0, '']);
  }
});
