import { spawn } from 'node:child_process';
import { link, mkdir, readdir, readFile, symlink, writeFile } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { parseBuffer } from 'music-metadata';
import { encode, samples } from '../core/files';
import { gridNoise, sine } from '../core/signals';
import { cleanUp, temporaryFolder } from '../server/folder';
import { bijou } from './run';

afterAll(cleanUp);

const json = (out: string) => JSON.parse(out) as Record<string, never>[];

/** Runs a line of the shell, where `$BIJOU` is the command. */
function shell(cwd: string, line: string): Promise<{ status: number; err: string }> {
  return new Promise((done) => {
    const bijouLine = `${process.execPath} ${resolve('bin/bijou')}`;
    // A folder for temporary files of its own: other tests run beside this one.
    const env = { ...process.env, BIJOU: bijouLine, TMPDIR: join(cwd, 'temporary') };
    const child = spawn('bash', ['-o', 'pipefail', '-c', line], { cwd, env });
    let err = '';
    child.stderr.on('data', (piece: Buffer) => (err += piece.toString()));
    child.on('close', (status) => done({ status: status ?? -1, err }));
  });
}

describe('standard output', () => {
  test('that is full is an error; that was closed is none; nothing is left behind', async () => {
    const folder = await temporaryFolder();
    await writeFile(join(folder, 'a.wav'), await samples.wav());
    await mkdir(join(folder, 'temporary'));
    for (const call of ['probe a.wav --json', 'probe a.wav', 'formats', 'convert a.wav --out -']) {
      const full = await shell(folder, `$BIJOU ${call} > /dev/full`);
      expect([call, full.status]).toEqual([call, 1]);
      expect(full.err).toMatch(/Standard output is on a full disk/);
      const closed = await shell(folder, `$BIJOU ${call} | head -c 1 > /dev/null`);
      expect([call, closed.status, closed.err]).toEqual([call, 0, '']);
    }
    expect(await readdir(join(folder, 'temporary'))).toEqual([]);
  });
});

describe('sources', () => {
  test('no listed source is a target, whatever the order and whatever leads to it', async () => {
    const folder = await temporaryFolder();
    const put = async (name: string, bytes: Uint8Array) => {
      await mkdir(join(folder, 'm'), { recursive: true });
      await writeFile(join(folder, 'm', name), bytes);
    };
    const wav = await samples.wav();
    await put('b.flac', await samples.flac());
    await put('b.wav', wav);
    await put('soft.flac', await samples.flac());
    await symlink('b.wav', join(folder, 'm', 'soft.wav'));
    await put('hard.flac', await samples.flac());
    await link(join(folder, 'm', 'b.wav'), join(folder, 'm', 'hard.wav'));
    const call = ['--out', 'm', '--format', 'wav', '--overwrite', '--json'];
    for (const names of [
      ['b.flac', 'b.wav'],
      ['b.wav', 'b.flac'],
      ['soft.flac', 'b.wav'],
      ['hard.flac', 'b.wav'],
    ]) {
      const files = names.map((name) => `m/${name}`);
      const { status, out } = await bijou(folder, 'convert', ...files, ...call);
      expect(status).toBe(1);
      for (const { error } of json(out)) expect(error).toMatchObject({ code: 'not-allowed' });
      expect(Buffer.compare(await readFile(join(folder, 'm/b.wav')), wav)).toBe(0);
    }
    // A file that is no source of the call may be replaced.
    const { status } = await bijou(folder, 'convert', 'm/b.flac', ...call);
    expect(status).toBe(0);
  });
});

describe('--out', () => {
  test.each([
    ['a.wav', /is a file, and no folder/],
    ['a.wav/below', /a part of its path is a file/],
    ['', /names no folder/],
    ['/proc/x', /cannot be made/],
    ['/proc/x/y', /cannot be made/],
  ])('"%s" is refused at once, in words and in JSON', async (out, sentence) => {
    const folder = await temporaryFolder();
    await writeFile(join(folder, 'a.wav'), await samples.wav());
    const ran = await bijou(folder, 'convert', 'a.wav', 'b.wav', '--out', out, '--json');
    expect(ran.status).toBe(2);
    expect(ran.err).toMatch(sentence);
    expect(ran.err).not.toMatch(/ENO|EACC|EEXIST/);
    expect(json(ran.out)).toMatchObject([
      { file: 'a.wav', error: { code: 'not-allowed' } },
      { file: 'b.wav', error: { code: 'not-allowed' } },
    ]);
  });

  test('folders are made as deep as needed', async () => {
    const folder = await temporaryFolder();
    await writeFile(join(folder, 'a.wav'), await samples.wav());
    expect((await bijou(folder, 'convert', 'a.wav', '--out', 'x/y/z')).status).toBe(0);
    expect(await readdir(join(folder, 'x/y/z'))).toEqual(['a.wav']);
  });
});

test('a name that is no UTF-8 is shown as well as can be, read, and ends nothing', async () => {
  const folder = await temporaryFolder();
  const name = Buffer.concat([Buffer.from(`${folder}/caf`), Buffer.of(0xe9), Buffer.from('.wav')]);
  await writeFile(name, await samples.wav());
  await writeFile(join(folder, 'tone.ogg'), await samples.ogg());
  const { status, out } = await bijou(folder, 'probe', '.', '--json');
  expect(status).toBe(0);
  expect(json(out)).toMatchObject([
    { file: './café.wav', frames: 44_100 },
    { file: './tone.ogg', frames: 44_100 },
  ]);
});

test('numbers outside what a step takes are refused before anything runs', async () => {
  const folder = await temporaryFolder();
  await writeFile(join(folder, 'a.wav'), await samples.wav());
  for (const call of [
    ['--speed', '-1'],
    ['--speed', '0'],
    ['--speed', '11'],
    ['--gain', '1000'],
    ['--normalise', 'peak=-1', '--ceiling', '3'],
  ]) {
    const { status, err } = await bijou(folder, 'convert', 'a.wav', '--out', 'o', ...call);
    expect([call, status]).toEqual([call, 2]);
    expect(err).toMatch(/Give a number from/);
  }
});

test('an empty tag clears the one of the source', async () => {
  const folder = await temporaryFolder();
  await writeFile(join(folder, 'a.wav'), await samples.wav());
  const tags = ['--tag', 'artist=Keeper', '--tag', 'title=Lamp'];
  await bijou(folder, 'convert', 'a.wav', '--out', 'one', '--format', 'mp3', ...tags);
  const again = ['--format', 'mp3', '--tag', 'artist='];
  await bijou(folder, 'convert', 'one/a.mp3', '--out', 'two', ...again);
  const { common } = await parseBuffer(await readFile(join(folder, 'two/a.mp3')));
  expect([common.artist, common.title]).toEqual([undefined, 'Lamp']);
});

test('a trim that cuts the loop says that it is gone', async () => {
  const folder = await temporaryFolder();
  const plain = await encode([sine(8_000, 100, 8_000)], 8_000, 'wav', { bits: 16 });
  // A `smpl` chunk with one loop from 1,000 to 5,000.
  const loop = Buffer.alloc(8 + 60);
  loop.write('smpl');
  loop.writeUInt32LE(60, 4);
  loop.writeUInt32LE(1, 8 + 28);
  loop.writeUInt32LE(1_000, 8 + 44);
  loop.writeUInt32LE(4_999, 8 + 48);
  const wav = Buffer.concat([plain, loop]);
  wav.writeUInt32LE(wav.length - 8, 4);
  await writeFile(join(folder, 'a.wav'), wav);
  const cut = await bijou(folder, 'convert', 'a.wav', '--out', 'o', '--to', '0.5');
  expect(cut.err).toMatch(/The loop is gone/);
  const kept = await bijou(folder, 'convert', 'a.wav', '--out', 'p', '--to', '0.9');
  expect(kept.err).toBe('');
});

test('splitting answers the same shape for mono', async () => {
  const folder = await temporaryFolder();
  await writeFile(
    join(folder, 'a.wav'),
    await encode([gridNoise(900, 16)], 8_000, 'wav', { bits: 16 }, 16),
  );
  const call = ['--out', 'o', '--channels', 'split', '--json'];
  const { out } = await bijou(folder, 'convert', 'a.wav', ...call);
  expect(json(out)).toMatchObject([{ file: 'a.wav', outputs: [{ channels: 1, frames: 900 }] }]);
});

test('samples that are no numbers are read as 0, which is said', async () => {
  const folder = await temporaryFolder();
  const broken = sine(8_000, 100, 8_000);
  [NaN, Infinity, -Infinity, 1e30].forEach((x, i) => (broken[1_000 + i] = x));
  await writeFile(join(folder, 'a.wav'), await encode([broken], 8_000, 'wav', { bits: 32 }));
  const { err, out } = await bijou(folder, 'probe', 'a.wav', '--json');
  expect(err).toMatch(/4 samples are no numbers/);
  expect(json(out)).toMatchObject([{ frames: 8_000, peakDbfs: expect.closeTo(-6.02, 1) }]);
});

test('what a declick would mend is listed without being mended', async () => {
  const folder = await temporaryFolder();
  const clicked = sine(44_100, 300, 44_100, 0.3);
  clicked[20_000] = 0.9;
  const bytes = await encode([clicked], 44_100, 'wav', { bits: 16 });
  await writeFile(join(folder, 'a.wav'), bytes);
  const { out } = await bijou(folder, 'probe', 'a.wav', '--clicks', '--json');
  expect(json(out)).toMatchObject([{ clicks: [{ channel: 1, startFrame: 20_000, frames: 1 }] }]);
  expect((await bijou(folder, 'probe', 'a.wav', '--clicks')).out).toMatch(/click at 0:00\.454/);
});
