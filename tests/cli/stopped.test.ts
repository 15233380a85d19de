import { spawn } from 'node:child_process';
import { readdir, utimes } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { mountSmallDisk, onSmallDisk, unmount } from '../disk';
import { cleanUp, temporaryFolder } from '../server/folder';
import { put, tone } from './files';
import { bijou, words } from './run';

afterAll(cleanUp);

/** What happens when something comes between. */

/** Runs the command line for real, and tells what it says while it runs. */
function started(folder: string, ...args: string[]) {
  const child = spawn(process.execPath, [resolve('bin/bijou'), ...args], { cwd: folder });
  let out = '';
  let err = '';
  child.stdout.on('data', (piece: Buffer) => (out += piece.toString()));
  child.stderr.on('data', (piece: Buffer) => (err += piece.toString()));
  const ended = new Promise<{ status: number | null; out: string; err: string }>((done) =>
    child.on('close', (status) => done({ status, out, err })),
  );
  return { child, ended };
}

test.each(['1', '3'])(
  'stopped in the middle with %s threads, whole files stay and nothing else',
  async (threads) => {
    const files: Record<string, Uint8Array> = {};
    for (let n = 0; n < 40; n++) files[`in/${n}.wav`] = await tone(8);
    const folder = await put(await temporaryFolder(), files);
    const { child, ended } = started(
      folder,
      ...words('convert in --out o --format ogg --threads'),
      threads,
    );
    await new Promise((seen) => child.stdout.once('data', seen));
    child.kill('SIGINT');
    const { status, out, err } = await ended;
    expect(status).toBe(130);
    expect(err).toMatch(/^Stopped: \d+ done and whole, nothing half-finished was kept\.$/m);
    const made = await readdir(join(folder, 'o'));
    expect(made.filter((name) => !name.endsWith('.ogg'))).toEqual([]);
    expect(made.length).toBeGreaterThanOrEqual(out.trimEnd().split('\n').length);
    expect(made.length).toBeLessThan(40);
    const probed = await bijou(folder, 'probe', 'o', '--json');
    for (const { frames } of JSON.parse(probed.out) as { frames: number }[])
      expect(frames).toBe(8 * 22_050);
  },
);

test('a file that is written to while it is read is no source', async () => {
  const folder = await put(await temporaryFolder(), { 'a.wav': await tone(60) });
  const { child, ended } = started(folder, ...words('convert a.wav --out o --format ogg'));
  const timer = setInterval(() => void utimes(join(folder, 'a.wav'), new Date(), new Date()), 30);
  const { status, err } = await ended;
  clearInterval(timer);
  expect(child.killed).toBe(false);
  expect(status).toBe(1);
  expect(err).toBe(
    'a.wav: It was changed while it was read. Try again when nobody writes to it.\n',
  );
  expect(await readdir(join(folder, 'o'))).toEqual([]);
});

test('trouble that many files have is said once', async () => {
  const files: Record<string, string> = {};
  for (let n = 1; n <= 9; n++) files[`in/${n}.wav`] = 'Dear Sir,';
  const folder = await put(await temporaryFolder(), files);
  const { err } = await bijou(folder, 'probe', 'in');
  expect(err).toMatch(/^9 files: It is text, not sound.+ – 1\.wav, 2\.wav, 3\.wav and 6 others$/m);
  for (const threads of ['0', '1.5', 'many', '257']) {
    const wrong = await bijou(folder, 'probe', 'in', '--threads', threads);
    expect(wrong).toMatchObject({ status: 2, err: expect.stringMatching(/--threads cannot be/) });
  }
});

onSmallDisk('a full disk ends the call: what is whole stays, the rest is not tried', async () => {
  const files: Record<string, Uint8Array> = {};
  for (let n = 0; n < 8; n++) files[`in/${n}.wav`] = await tone(15);
  const folder = await put(await temporaryFolder(), files);
  const disk = join(folder, 'disk');
  mountSmallDisk(disk);
  try {
    const call = ['convert', 'in', '--out', 'disk', '--format', 'wav', '--threads', '1'];
    const { status, err, out } = await bijou(folder, ...call);
    expect(status).toBe(1);
    expect(err).toMatch(/The disk is full\. Free some space/);
    expect(err).toMatch(/^The files behind it were not begun\.$/m);
    expect(await readdir(disk)).toEqual(['0.wav', '1.wav', '2.wav']);
    expect(out.trimEnd().split('\n')).toHaveLength(3);
  } finally {
    unmount(disk);
  }
});
