import { stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import Papa from 'papaparse';
import { readySets } from '@/core/compare/candidates/sets';
import { trialColumns } from '@/core/compare/columns';
import { encode } from '../core/files';
import { noise, sine } from '../core/signals';
import { cleanUp, temporaryFolder } from '../server/folder';
import { bijou } from './run';

afterAll(cleanUp);

const TRIAL = [
  'candidate',
  'format',
  'codec',
  'settings',
  'sampleRateHz',
  'channels',
  'bytes',
  'kbps',
  'ratio',
  'encodeRealtime',
  'decodeMsPerSecond',
  'nativeCost',
  'voicesPerCore',
  'firstBlockMs',
  'extraHeadFrames',
  'extraTailFrames',
  'bandwidthHz',
  'noiseDb',
  'nmrDb',
  'grade',
  'worstHalfSecond',
  'missing',
  'unheard',
  'mixdownLossDb',
  'truePeakDbtp',
  'memoryBytes',
];

async function twoSounds() {
  const folder = await temporaryFolder();
  const stereo = [noise(22_050, 1, 0.3), noise(22_050, 2, 0.3)];
  const files = ['hiss.wav', 'tone.wav', 'letter.wav'];
  await writeFile(join(folder, files[0]!), await encode(stereo, 44_100, 'wav', { bits: 16 }));
  await writeFile(
    join(folder, files[1]!),
    await encode([sine(48_000, 997, 10)], 48_000, 'wav', { bits: 16 }),
  );
  await writeFile(join(folder, files[2]!), 'Dear Sir,');
  return { folder, files };
}

const ASKED = ['wav/pcm@16', 'ogg/opus@96', 'mp3@999', 'ogg/vorbis@q3', 'wav/ima-adpcm'];

test('compare --json: trials in the order asked, refused ones with their error, as convert makes them', async () => {
  const { folder, files } = await twoSounds();
  const list = ASKED.join(',');
  const call = ['--candidates', list, '--runs', '2', '--voices', '8', '--json'];
  const { status, out } = await bijou(folder, 'compare', ...files, ...call);
  expect(status).toBe(1);
  const [hiss, tone, letter] = JSON.parse(out);
  expect(Object.keys(hiss)).toEqual(['file', 'seconds', 'sourceBytes', 'trials']);
  expect(hiss).toMatchObject({ file: files[0], seconds: 0.5, sourceBytes: 88_244 });
  expect(letter.error.code).toBe('not-audio');
  for (const { trials } of [hiss, tone]) {
    expect(trials.map((one: { candidate: string }) => one.candidate)).toEqual(ASKED);
    for (const one of trials) {
      if (one.candidate === 'mp3@999') {
        expect(one).toMatchObject({ format: 'mp3', codec: 'mp3', settings: { kbps: 999 } });
        expect(one.error.message).toContain('999');
        continue;
      }
      expect(Object.keys(one)).toEqual(TRIAL);
      const { median, low, high } = one.decodeMsPerSecond;
      expect(low).toBeLessThanOrEqual(median);
      expect(high).toBeGreaterThanOrEqual(median);
      expect(one.voicesPerCore).toBeCloseTo(1000 / median, 6);
      expect(one.grade).toBe(Number(one.grade.toFixed(3)));
    }
  }
  const [pcm, opus, , vorbis, ima] = hiss.trials;
  expect(pcm).toMatchObject({ grade: 0, nmrDb: null, noiseDb: null, bytes: 88_244, ratio: 1 });
  expect(pcm.memoryBytes).toEqual({
    unpacked: 22_050 * 4,
    packed: 88_244 + 8 * Math.ceil((1_024 * 44_100) / 48_000) * 8,
    streamed: 8 * (2 * 65_536 + Math.ceil((1_024 * 44_100) / 48_000) * 8),
  });
  expect(opus).toMatchObject({ sampleRateHz: 48_000, channels: 2, extraHeadFrames: 312 });
  expect(opus.bandwidthHz).toBeGreaterThan(15_000);
  expect(vorbis).toMatchObject({ format: 'ogg', codec: 'vorbis', settings: { quality: 3 } });
  expect(ima.kbps).toBeCloseTo((ima.bytes * 8) / 500, 6);
  const asked = ['--out', 'made', '--format', 'ogg', '--quality', '3'];
  expect((await bijou(folder, 'convert', files[0]!, ...asked)).status).toBe(0);
  expect((await stat(join(folder, 'made', 'hiss.ogg'))).size).toBe(vorbis.bytes);
});

test('compare --csv can be read back, and --channels and --rate go for all candidates', async () => {
  const { folder, files } = await twoSounds();
  const call = [
    '--candidates',
    'mp3@64,flac',
    '--channels',
    'mono',
    '--rate',
    '22050',
    '--runs',
    '1',
  ];
  const { status, out } = await bijou(folder, 'compare', files[0]!, ...call, '--csv');
  expect(status).toBe(0);
  const { data, errors } = Papa.parse<Record<string, string>>(out.trim(), { header: true });
  expect(errors).toEqual([]);
  expect(Object.keys(data[0]!)).toEqual([
    ...['file', 'candidate', 'name'],
    ...trialColumns.map(({ id }) => id),
    'error',
  ]);
  expect(data.map(({ name }) => name)).toEqual([
    'MP3, 64 kbit/s, 22.05 kHz, mono',
    'FLAC, 22.05 kHz, mono',
  ]);
  for (const { bandwidthHz, grade } of data) {
    expect(Number(bandwidthHz)).toBeLessThan(11_100);
    expect(Number(grade)).toBeLessThan(-0.1);
  }
});

test('compare prints a table, with a star where no other is smaller and better', async () => {
  const { folder, files } = await twoSounds();
  const { out, err } = await bijou(folder, 'compare', files[0]!, '--set', 'light', '--runs', '3');
  const lines = out.trim().split('\n');
  expect(lines[0]).toContain('0:00.500, 44.1 kHz, stereo, 88,244 bytes');
  expect(lines).toHaveLength(2 + readySets.find(({ id }) => id === 'light')!.candidates.length);
  expect(lines.find((line) => line.includes('flac'))).toMatch(/^\s+\*/);
  expect(err).toMatch(/processor time|time that passed/);
});

test.each([
  ['--candidates', 'nope'],
  ['--candidates', 'mp3@q3'],
  ['--candidates', ''],
  ['--set', 'nope'],
  ['--voices', '0'],
  ['--voices', '1000001'],
  ['--runs', '0'],
  ['--runs', '1.5'],
  ['--channels', '5'],
  ['--rate', '7'],
  ['--json', '--csv'],
])('compare %s %s is a wrong call, and says why', async (...call) => {
  const { status, out, err } = await bijou('.', 'compare', 'any.wav', ...call);
  expect(status).toBe(2);
  // Who reads JSON is told in JSON.
  if (call.includes('--json'))
    expect(JSON.parse(out)).toMatchObject({ error: { code: 'wrong-call' } });
  else expect(out).toBe('');
  expect(err.trim().split('\n')).toHaveLength(1);
});

test('reference writes a signal, never over a file, and says which there are', async () => {
  const folder = await temporaryFolder();
  const file = 'chord.flac';
  const call = ['reference', 'chord', '--out', file, '--seconds', '0.5', '--rate', '44100'];
  expect(await bijou(folder, ...call)).toMatchObject({
    status: 0,
    out: expect.stringContaining('stereo'),
  });
  const { out } = await bijou(folder, 'probe', file, '--json');
  expect(JSON.parse(out)[0]).toMatchObject({
    ...{ container: 'flac', sampleRateHz: 44_100, channels: 2, bitDepth: 24, frames: 22_050 },
  });
  expect(await bijou(folder, ...call)).toMatchObject({
    status: 1,
    err: expect.stringContaining('already there'),
  });
  expect((await bijou(folder, ...call, '--overwrite')).status).toBe(0);
  for (const wrong of [
    ['nope', '--out', file],
    ['tone', '--out', 'tone.mp3'],
    ['tone', '--out', file, '--seconds', 'x'],
    ['tone', '--out', file, '--seconds', '0'],
    ['tone', '--out', file, '--rate', '7'],
  ]) {
    expect((await bijou(folder, 'reference', ...wrong)).status).toBe(2);
  }
});
