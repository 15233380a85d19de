import { mkdir, readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { encode, samples } from '../core/files';
import { madeVoice } from '@/core/compare/reference/voice';
import { cleanUp, temporaryFolder } from '../server/folder';
import { bijou, bijouFed } from './run';

afterAll(cleanUp);

async function folderWithSounds() {
  const folder = await temporaryFolder();
  for (const [kind, make] of Object.entries(samples)) {
    await writeFile(join(folder, `tone.${kind}`), await make());
  }
  await writeFile(join(folder, 'letter.wav'), 'Dear Sir,');
  await writeFile(join(folder, 'empty.wav'), '');
  return folder;
}

const FIELDS = [
  'file',
  'container',
  'codec',
  'sampleRateHz',
  'channels',
  'bitDepth',
  'frames',
  'seconds',
  'bytes',
  'bitRateKbps',
  'peakDbfs',
  'rmsDbfs',
  'truePeakDbtp',
  'lufs',
  'loudnessRangeLu',
  'correlation',
  'dcOffset',
  'clippedRuns',
  'clippedPlaces',
  'headSilenceSeconds',
  'tailSilenceSeconds',
  'bandwidthHz',
  'shelfHz',
  'usedBits',
  'identicalChannels',
  'speakers',
  'addedFrames',
  'loop',
  'markers',
  'tags',
];

test('probe --json: one object a file, in order, bad ones with their error', async () => {
  const folder = await folderWithSounds();
  const files = [
    'tone.wav',
    'letter.wav',
    'tone.mp3',
    'missing.wav',
    'tone.ogg',
    'empty.wav',
    'tone.m4a',
  ];
  const { status, out, err } = await bijou(folder, 'probe', '--json', ...files);
  const results = JSON.parse(out) as Record<string, unknown>[];
  expect(status).toBe(1);
  expect(results.map(({ file }) => file)).toEqual(files);
  expect(results.map((r) => (r['error'] as { code: string } | undefined)?.code)).toEqual([
    undefined,
    'not-audio',
    undefined,
    'not-found',
    undefined,
    'empty-file',
    undefined,
  ]);
  for (const result of results.filter((r) => !r['error'])) {
    expect(Object.keys(result)).toEqual([...FIELDS, 'worries']);
    expect(result).toMatchObject({ sampleRateHz: 44_100, channels: 2, frames: 44_100, seconds: 1 });
  }
  expect(Object.keys(results[1]!['error'] as object)).toEqual(
    expect.arrayContaining(['code', 'message', 'hint']),
  );
  expect(err).toMatch(/^letter\.wav: .*text/m);
  expect(err).not.toMatch(/\n\s+at /);
});

test.each([
  ['wav', ['--bits', '16', '--channels', 'left'], { codec: 'pcm', bitDepth: 16, channels: 1 }],
  ['wav', ['--bits', '32f'], { codec: 'float', bitDepth: 32 }],
  [
    'mp3',
    ['--quality', '3', '--rate', '48000'],
    { codec: 'mp3', sampleRateHz: 48_000, frames: 24_000 },
  ],
  ['ogg', ['--quality', '6', '--channels', 'mono'], { codec: 'vorbis', channels: 1 }],
  ['m4a', ['--bitrate', '96'], { codec: 'aac', container: 'mp4' }],
])('convert to %s %j', async (format, options, wanted) => {
  const folder = await folderWithSounds();
  const span = ['--from', '0.25', '--to', '33075f'];
  const { status, out } = await bijou(
    folder,
    'convert',
    'tone.wav',
    '--out',
    'results',
    '--format',
    format,
    '--json',
    ...options,
    ...span,
  );
  const [result] = JSON.parse(out) as Record<string, unknown>[];
  expect(status).toBe(0);
  expect(result).toMatchObject({
    frames: 22_050,
    file: 'tone.wav',
    output: `results/tone.${format}`,
    ...wanted,
  });
  expect(Object.keys(result!)).toEqual([...FIELDS, 'output', 'sourceBytes', 'ratio', 'notes']);
});

test('one line a file with bytes before → after; a bad file does not stop the rest', async () => {
  const folder = await folderWithSounds();
  const { status, out, err } = await bijou(
    folder,
    'convert',
    'letter.wav',
    'tone.wav',
    '--out',
    'results',
    '--format',
    'mp3',
  );
  expect(status).toBe(1);
  expect(out.trim().split('\n')).toHaveLength(1);
  expect(out).toMatch(
    /tone\.wav → results\/tone\.mp3 {2}176444 → \d+ bytes {2}÷ [\d.]+ \([\d.]+ %\)/,
  );
  expect(err).toMatch(/letter\.wav/);
  expect(await readdir(join(folder, 'results'))).toEqual(['tone.mp3']);
});

test('nothing is replaced without --overwrite, and a source never', async () => {
  const folder = await folderWithSounds();
  const results = join(folder, 'results');
  await mkdir(results);
  await writeFile(join(results, 'tone.ogg'), 'mine');
  const args = ['convert', 'tone.wav', '--out', 'results', '--format', 'ogg'];
  expect(await bijou(folder, ...args)).toMatchObject({
    status: 1,
    err: expect.stringMatching(/already there/),
  });
  expect(await readFile(join(results, 'tone.ogg'), 'utf8')).toBe('mine');
  expect(await bijou(folder, ...args, '--overwrite')).toMatchObject({ status: 0 });
  expect((await readFile(join(results, 'tone.ogg'))).subarray(0, 4).toString()).toBe('OggS');
  const before = await readFile(join(folder, 'tone.wav'));
  const own = await bijou(folder, 'convert', 'tone.wav', '--out', '.', '--overwrite');
  expect(own).toMatchObject({ status: 1, err: expect.stringMatching(/its own source/) });
  expect(await readFile(join(folder, 'tone.wav'))).toEqual(before);
});

test.each([
  [['--from', '2']],
  [['--to', '1.5']],
  [['--from', '0.5', '--to', '0.5']],
  [['--from', '0.6', '--to', '0.5']],
  [['--rate', '47000', '--format', 'mp3']],
  [['--rate', '22050', '--format', 'mp3', '--bitrate', '320']],
])('%j is refused for the file, and nothing is left in the folder', async (options) => {
  const folder = await folderWithSounds();
  const { status, err } = await bijou(
    folder,
    'convert',
    'tone.wav',
    '--out',
    'results',
    ...options,
  );
  expect(status).toBe(1);
  expect(err).toMatch(/^tone\.wav: .+\. .+/);
  expect(await readdir(join(folder, 'results'))).toEqual([]);
});

test.each([
  [[]],
  [['convert', 'tone.wav']],
  [['convert', 'tone.wav', '--out', 'x', '--format', 'exe']],
  [['convert', 'tone.wav', '--out', 'x', '--format', 'ogg', '--bitrate', '128']],
  [['convert', 'tone.wav', '--out', 'x', '--bits', '12']],
  [['convert', 'tone.wav', '--out', 'x', '--rate', 'fast']],
  [['convert', 'tone.wav', '--out', 'x', '--from', '1,5']],
  [['convert', 'tone.wav', '--out', 'x', '--channels', 'five']],
  [['check', 'tone.wav', '--brief', 'nobody']],
  [['sing']],
])('a wrong call is status 2: %j', async (args) => {
  const folder = await folderWithSounds();
  const { status, out, err } = await bijou(folder, ...args);
  expect(status).toBe(2);
  expect(out).toBe('');
  expect(err).not.toMatch(/\n\s+at /);
  expect(await readdir(folder)).not.toContain('x');
});

test('check says what a destination would take, and why not', async () => {
  const folder = await folderWithSounds();
  const { status, out } = await bijou(
    folder,
    'check',
    'tone.mp3',
    'tone.wav',
    '--brief',
    'web-page',
    '--json',
  );
  expect(status).toBe(1);
  expect(JSON.parse(out)).toMatchObject([
    { file: 'tone.mp3', accepted: true, brief: 'web-page' },
    { file: 'tone.wav', accepted: false },
  ]);
});

test('check doubts a rate at which a voice speaks twice as fast as people do', async () => {
  const folder = await temporaryFolder();
  const voice = madeVoice(22_050, 6 * 22_050, 110);
  for (const hz of [22_050, 44_100]) {
    await writeFile(join(folder, `${hz}.wav`), await encode([voice], hz, 'wav', { bits: 16 }));
  }
  const { out, err } = await bijou(folder, 'check', '22050.wav', '44100.wav', '--json');
  expect(JSON.parse(out)).toMatchObject([
    { file: '22050.wav', rateDoubt: null },
    { file: '44100.wav', rateDoubt: { labelledHz: 44_100, likelyHz: 22_050 } },
  ]);
  expect(err).toMatch(/44100\.wav: .*twice as fast and high as people speak/);
});

test('a file over the limit is refused', async () => {
  const folder = await folderWithSounds();
  const { status, err } = await bijouFed(
    null,
    { BIJOU_MAX_BYTES: '1000' },
    folder,
    'probe',
    'tone.wav',
  );
  expect(status).toBe(1);
  expect(err).toMatch(/larger than the limit of 1,000 bytes/);
});
