import { createHash } from 'node:crypto';
import { readdir, readFile, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { encode, samples } from '../core/files';
import { noise } from '../core/signals';
import { cleanUp, temporaryFolder } from '../server/folder';
import { put, tone } from './files';
import { bijou, type Ran, words } from './run';

afterAll(cleanUp);

/** Folders, patterns and many files at a time. */

/** A tree of short sounds of very different lengths, so that they are not done in their order. */
async function tree(): Promise<string> {
  const files: Record<string, Uint8Array | string> = {
    'in/notes.txt': 'wind from the north',
    'in/.hidden.wav': await tone(1),
  };
  for (let n = 0; n < 12; n++) {
    const place = n % 3 === 0 ? 'in/sea/deep' : n % 3 === 1 ? 'in/sea' : 'in';
    files[`${place}/wave ${n}.wav`] = await tone(n % 4 === 0 ? 4 : 0.1);
  }
  return put(await temporaryFolder(), files);
}

const lines = ({ out }: Ran) => out.trimEnd().split('\n');
const jsonOf = (ran: Ran) => JSON.parse(ran.out) as { file: string; output: string }[];
const treeOf = async (folder: string) =>
  (await readdir(folder, { recursive: true, withFileTypes: true }))
    .filter((entry) => entry.isFile())
    .map((entry) => join(entry.parentPath, entry.name).slice(folder.length + 1))
    .sort();

async function hashes(folder: string): Promise<Record<string, string>> {
  const names = await treeOf(folder);
  const entries = names.map(async (name) => [
    name,
    createHash('sha256')
      .update(await readFile(join(folder, name)))
      .digest('hex'),
  ]);
  return Object.fromEntries(await Promise.all(entries)) as Record<string, string>;
}

test('four threads give the order and the bytes of one, with the tree kept', async () => {
  const folder = await tree();
  const call = ['convert', 'in', '--format', 'ogg', '--json'];
  const [one, four] = [
    await bijou(folder, ...call, '--out', 'one', '--threads', '1'),
    await bijou(folder, ...call, '--out', 'four', '--threads', '4'),
  ];
  expect(one.err).toBe('in: 2 files left out: hidden, linked, or no sound.\n');
  const order = jsonOf(one).map(({ file }) => file);
  expect(order).toHaveLength(12);
  expect(order.slice(0, 3)).toEqual([
    'in/sea/deep/wave 0.wav',
    'in/sea/deep/wave 3.wav',
    'in/sea/deep/wave 6.wav',
  ]);
  expect(jsonOf(four).map(({ file }) => file)).toEqual(order);
  const made = await hashes(join(folder, 'one'));
  expect(Object.keys(made)).toContain('sea/deep/wave 0.ogg');
  expect(await hashes(join(folder, 'four'))).toEqual(made);
  const read = await Promise.all(
    ['1', '4'].map((threads) => bijou(folder, 'probe', 'in', '--json', '--threads', threads)),
  );
  expect(read[1]!.out).toBe(read[0]!.out);
});

test('a line for each file in order, a summary for all; JSON one object a line', async () => {
  const folder = await tree();
  const plain = await bijou(folder, ...words('convert in --out a --format flac'));
  expect(lines(plain)).toHaveLength(12);
  expect(lines(plain)[0]).toMatch(
    /^in\/sea\/deep\/wave 0\.wav → a\/sea\/deep\/wave 0\.flac {2}\d+ → \d+ bytes/,
  );
  expect(plain.err).toMatch(
    /^12 files: 0:\d\d of sound, .+ → .+ \(÷ .+\), in 0:.+ × real time, \d+ threads?\.$/m,
  );
  const streamed = await bijou(folder, ...words('convert in --out b --format flac --json-lines'));
  expect(lines(streamed).map((line) => (JSON.parse(line) as { file: string }).file)).toEqual(
    lines(plain).map((line) => line.split(' → ')[0]),
  );
  expect(await bijou(folder, 'probe', 'in', '--json', '--json-lines')).toMatchObject({ status: 2 });
});

test('patterns find what they say, in folders only where they say so', async () => {
  const folder = await tree();
  const found = async (...patterns: string[]) =>
    jsonOf(await bijou(folder, 'probe', '--json', ...patterns)).map(({ file }) => file);
  expect(await found('in/*.wav')).toEqual([
    'in/wave 2.wav',
    'in/wave 5.wav',
    'in/wave 8.wav',
    'in/wave 11.wav',
  ]);
  expect(await found('in/**/wave {0,1}.wav')).toEqual([
    'in/sea/deep/wave 0.wav',
    'in/sea/wave 1.wav',
  ]);
  const nothing = await bijou(folder, 'probe', 'in/*.flac', 'in/wave 2.wav');
  expect(nothing.status).toBe(1);
  expect(nothing.err).toContain('No sound fits the pattern "in/*.flac".');
  expect(lines(nothing)[0]).toMatch(/^in\/wave 2\.wav/);
});

test('names are filled from a pattern; two that meet are numbered, which is said', async () => {
  const wav = await tone(0.1);
  const folder = await put(await temporaryFolder(), {
    'in/low/a.wav': wav,
    'in/a.wav': wav,
    'in/a.flac': await samples.flac(),
  });
  const named = await bijou(
    folder,
    ...words(
      'convert in --out o --format ogg --name {n:3}-{group}{name}-{rate}-{channels}-{format}-{codec}',
    ),
  );
  expect(named.status).toBe(0);
  expect(await treeOf(join(folder, 'o'))).toEqual([
    '001-a-22.05kHz-mono-ogg-vorbis.ogg',
    '001-a-44.1kHz-stereo-ogg-vorbis.ogg',
    'low/001-lowa-22.05kHz-mono-ogg-vorbis.ogg',
  ]);
  const met = await bijou(folder, ...words('convert in --out p --format ogg'));
  expect(await treeOf(join(folder, 'p'))).toEqual(['a-2.ogg', 'a.ogg', 'low/a.ogg']);
  expect(met.err).toMatch(/^a\.wav: Numbered/m);
  const unknown = await bijou(folder, ...words('convert in --out q --name {title}'));
  expect(unknown).toMatchObject({
    status: 2,
    err: expect.stringMatching(/knows no \{title\}.*\{codec\}/s),
  });
});

test('a folder for the results inside that of the sources is no source; sources are not written over', async () => {
  const folder = await put(await temporaryFolder(), {
    'in/a.wav': await tone(0.1),
    'in/sea/b.wav': await tone(0.1),
  });
  for (let round = 0; round < 2; round++) {
    const ran = await bijou(folder, ...words('convert in --out in/made --format wav --overwrite'));
    expect(ran.status).toBe(0);
    expect(lines(ran)).toHaveLength(2);
  }
  expect(await treeOf(join(folder, 'in'))).toEqual([
    'a.wav',
    'made/a.wav',
    'made/sea/b.wav',
    'sea/b.wav',
  ]);
  const before = await readFile(join(folder, 'in/a.wav'));
  const over = await bijou(
    folder,
    ...words('convert in/sea in/a.wav --out in --format wav --overwrite'),
  );
  expect(over.err).toMatch(/its own source/);
  expect(await readFile(join(folder, 'in/a.wav'))).toEqual(before);
  const beside = await bijou(folder, ...words('convert in --out in --format wav --overwrite'));
  expect(beside.status).toBe(1);
  expect(await readFile(join(folder, 'in/a.wav'))).toEqual(before);
});

test('a dry run writes nothing and says what would be written: to the byte where it can be known', async () => {
  const folder = await put(await temporaryFolder(), {
    'in/long.wav': await encode([noise(30 * 22_050, 1, 0.3)], 22_050, 'wav', { bits: 16 }),
    'in/short.wav': await tone(1.3),
  });
  for (const options of [
    ['--format', 'mp3'],
    ['--format', 'wav'],
    ['--format', 'ogg'],
    ['--format', 'm4a'],
  ]) {
    const dry = await bijou(folder, ...words('convert in --out o --json --dry-run'), ...options);
    expect(dry.status).toBe(0);
    await expect(stat(join(folder, 'o'))).rejects.toThrow();
    const said = JSON.parse(dry.out) as {
      output: string;
      estimatedBytes: number;
      isExact: boolean;
    }[];
    const real = await bijou(folder, ...words('convert in --out o --json --overwrite'), ...options);
    const made = JSON.parse(real.out) as { output: string; bytes: number }[];
    for (const [i, { output, estimatedBytes, isExact }] of said.entries()) {
      expect(output).toBe(made[i]!.output);
      if (isExact) expect([output, estimatedBytes]).toEqual([output, made[i]!.bytes]);
      else expect(Math.abs(estimatedBytes / made[i]!.bytes - 1)).toBeLessThan(0.05);
    }
    await rm(join(folder, 'o'), { recursive: true });
  }
}, 30_000);

test('stems get one gain together: the loudest reaches the level, the balance stays', async () => {
  const folder = await put(await temporaryFolder(), {
    'in/loud.wav': await tone(1, 0.5),
    'in/soft.wav': await tone(1, 0.05),
  });
  const peaks = async (...options: string[]) => {
    const { out, status } = await bijou(
      folder,
      ...words('convert in --json --bits 32f --overwrite --out o'),
      ...options,
    );
    expect(status).toBe(0);
    return JSON.parse(out) as { peakDbfs: number; lufs: number }[];
  };
  const [loud, soft] = await peaks('--normalise', 'peak=-1', '--together');
  expect(loud!.peakDbfs).toBeCloseTo(-1, 2);
  expect(loud!.peakDbfs - soft!.peakDbfs).toBeCloseTo(20, 1);
  const [first, second] = await peaks('--normalise', 'lufs=-20', '--together');
  expect(first!.lufs).toBeCloseTo(-20, 1);
  expect(first!.lufs - second!.lufs).toBeCloseTo(20, 1);
  const alone = await bijou(folder, ...words('convert in --out p --together'));
  expect(alone).toMatchObject({ status: 2, err: expect.stringMatching(/needs --normalise/) });
});
