import { execFileSync, spawn } from 'node:child_process';
import { chmod, mkdir, readdir, readFile, writeFile } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { samples } from '../core/files';
import { cleanUp, temporaryFolder } from '../server/folder';
import { put, tone } from './files';
import { call, dataFolder } from './packing';
import { bijou, bijouFed, words } from './run';

afterAll(cleanUp);

/** The command line in rough surroundings. */

/** Runs the command line for real and sends it a signal after so many milliseconds. */
function signalled(
  cwd: string,
  args: readonly string[],
  signal: NodeJS.Signals,
  afterMs: number,
  env: Record<string, string> = {},
) {
  const child = spawn(process.execPath, [resolve('bin/bijou'), ...args], {
    cwd,
    env: { ...process.env, ...env },
  });
  let out = '';
  child.stdout.on('data', (piece: Buffer) => (out += piece.toString()));
  child.stderr.resume();
  setTimeout(() => child.kill(signal), afterMs);
  return new Promise<{ status: number | null; signal: NodeJS.Signals | null; out: string }>(
    (done) => child.on('close', (status, signal) => done({ status, signal, out })),
  );
}

test.each(['SIGINT', 'SIGTERM', 'SIGHUP'] as const)(
  'the first %s ends a call, at whatever moment; nothing is left in either folder',
  async (signal) => {
    const files: Record<string, Uint8Array> = {};
    for (let n = 0; n < 8; n++) files[`in/${n}.wav`] = await tone(20);
    const folder = await put(await temporaryFolder(), files);
    await mkdir(join(folder, 'temporary'));
    const env = { TMPDIR: join(folder, 'temporary') };
    // From before anything is loaded, over threads that load, to the middle of the work.
    for (let ms = 120; ms < 1_300; ms += 170) {
      const out = `o${ms}`;
      const args = words(`convert in --format ogg --threads 4 --json --out ${out}`);
      const ran = await signalled(folder, args, signal, ms, env);
      // Before Node has begun with the call, or while threads load for long, the signal itself is the end.
      if (ran.status === null) expect(ran.signal).toBe(signal);
      else expect([0, 130]).toContain(ran.status);
      // Whatever was printed is whole.
      if (ran.out !== '') JSON.parse(ran.out);
      const made = await readdir(join(folder, out)).catch(() => []);
      expect(made.filter((name) => !name.endsWith('.ogg'))).toEqual([]);
    }
    expect(await readdir(join(folder, 'temporary'))).toEqual([]);
  },
  60_000,
);

test('compare ends while it measures what decoding costs', async () => {
  const folder = await put(await temporaryFolder(), { 'a.wav': await tone(4) });
  await mkdir(join(folder, 'temporary'));
  const args = words('compare a.wav --candidates mp3@128,ogg/vorbis@q3 --runs 1000 --json');
  const env = { TMPDIR: join(folder, 'temporary') };
  const { status, out } = await signalled(folder, args, 'SIGTERM', 4_000, env);
  expect(status).toBe(130);
  // On a machine that is busy it has not come that far, and says so of each trial.
  const files = JSON.parse(out) as { trials: { error?: { code: string } }[] }[];
  const codes = files.flatMap(({ trials }) => trials.map(({ error }) => error?.code));
  expect(codes.filter((code) => code !== 'cancelled')).toEqual([]);
  expect(await readdir(join(folder, 'temporary'))).toEqual([]);
}, 60_000);

test('a pack that is stopped is not written, and leaves nothing', async () => {
  const { folder, brief } = await dataFolder();
  const cwd = await temporaryFolder();
  const args = ['pack', '--project', 'Skerry', '--brief', brief, '--out', 'isle.zip', '--json'];
  for (const ms of [150, 300, 450]) {
    const { status, signal, out } = await signalled(cwd, args, 'SIGTERM', ms, {
      BIJOU_DATA: folder,
    });
    if (status === 0 || signal === 'SIGTERM') continue;
    expect(status).toBe(130);
    if (out !== '') expect(JSON.parse(out)).toMatchObject({ error: { code: 'cancelled' } });
    expect((await readdir(cwd)).filter((name) => name.endsWith('.part'))).toEqual([]);
  }
}, 60_000);

test('what is no plain file is refused before it is opened', async () => {
  const folder = await put(await temporaryFolder(), { 'a.wav': await tone(1) });
  execFileSync('mkfifo', [join(folder, 'pipe.wav')]);
  for (const args of [
    'probe pipe.wav',
    'check pipe.wav',
    'loop show pipe.wav',
    'probe /dev/zero',
  ]) {
    const { status, err } = await bijou(folder, ...words(args));
    expect([args, status]).toEqual([args, 1]);
    expect(err).toMatch(/no plain file/);
  }
  for (const args of ['rehearse pipe.wav --host mod', 'index check pipe.wav']) {
    const { status } = await bijou(folder, ...words(args));
    expect([args, status]).toEqual([args, 2]);
  }
  const shell = (line: string) =>
    execFileSync('bash', ['-c', `${line} 2>&1 || true`], {
      cwd: folder,
      env: { ...process.env, BIJOU: `${process.execPath} ${resolve('bin/bijou')}` },
    }).toString();
  expect(shell('$BIJOU probe - < .')).toMatch(/Standard input is a folder/);
  expect(shell('$BIJOU probe - < /dev/zero')).toMatch(/Standard input is a device/);
  expect(shell('cat a.wav | $BIJOU probe -')).toMatch(/22050 Hz/);
});

test('who makes files goes on when nobody reads any more what is said of them', async () => {
  const files: Record<string, Uint8Array> = {};
  for (let n = 0; n < 12; n++) files[`in/${n}.wav`] = await tone(1);
  const folder = await put(await temporaryFolder(), files);
  const line = `${process.execPath} ${resolve('bin/bijou')} convert in --out o | head -1`;
  execFileSync('bash', ['-o', 'pipefail', '-c', line], { cwd: folder });
  expect(await readdir(join(folder, 'o'))).toHaveLength(12);
});

describe('--json', () => {
  test.each([
    ['nonsense --json'],
    ['convert --json'],
    ['convert a.wav --out o --json --nonsense'],
    ['convert a.wav --out o --rate x --json'],
    ['probe --json'],
    ['build --project 1 --out o --json'],
    ['pack --project 1 --brief x --out o --json'],
    ['rehearse nothing --host mod --json'],
    ['index check nothing --json'],
    ['loop show a.wav --start x --json'],
    ['briefs nothing --json'],
    ['compare a.wav --candidates nothing --json'],
    ['check a.wav --brief nothing --json'],
  ])('of "%s" is one whole value with the error', async (args) => {
    const folder = await put(await temporaryFolder(), { 'a.wav': await tone(1) });
    const { status, out } = await bijou(folder, ...words(args));
    expect(status).toBe(2);
    const { error } = JSON.parse(out) as { error: { message: string; hint: string } };
    expect(error.message).toMatch(/\w/);
    expect(error.hint).toMatch(/\.$/);
  });
});

test('a temporary folder that is not there is named as such', async () => {
  const folder = await put(await temporaryFolder(), { 'a.wav': await tone(1) });
  const env = { TMPDIR: join(folder, 'nowhere') };
  const fed = await bijouFed(await samples.wav(), env, folder, 'probe', '-');
  expect(fed.err).toMatch(
    /folder for temporary files, ".*nowhere", cannot be written to \(it is not there\)/,
  );
  const out = await bijouFed(null, env, folder, ...words('convert a.wav --out -'));
  expect(out.err).toMatch(/folder for temporary files/);
  const compared = await bijouFed(
    null,
    env,
    folder,
    ...words('compare a.wav --candidates mp3@128'),
  );
  expect(compared.out).toMatch(/folder for temporary files/);
});

test('folders that cannot be looked through fail by name; empty ones are said', async () => {
  const folder = await put(await temporaryFolder(), { 'in/a.wav': await tone(1) });
  await mkdir(join(folder, 'in/locked'));
  await mkdir(join(folder, 'empty'));
  await chmod(join(folder, 'in/locked'), 0);
  // Who may do anything is refused nothing: then only the empty one can be tried.
  const isRoot = process.getuid?.() === 0;
  const args = [
    '-c',
    'exec "$0" "$@"',
    process.execPath,
    resolve('bin/bijou'),
    'probe',
    'in',
    '--json',
  ];
  if (!isRoot) {
    const ran = await bijou(folder, 'probe', 'in', '--json');
    expect(ran.status).toBe(1);
    expect(ran.err).toMatch(/locked.*cannot be looked through \(it is not permitted\)/);
  } else {
    await chmod(folder, 0o755);
    const ran = asNobody(folder, args);
    if (ran) {
      expect(ran.status).toBe(1);
      expect(ran.err).toMatch(/locked.*cannot be looked through \(it is not permitted\)/);
    }
  }
  await chmod(join(folder, 'in/locked'), 0o755);
  const empty = await bijou(folder, 'probe', 'empty', '--json');
  expect(empty).toMatchObject({ status: 0, out: '[]\n' });
  expect(empty.err).toBe('empty: there is no sound in it.\n');
});

/** Runs a call as somebody who may little; null where that cannot be had. */
function asNobody(cwd: string, args: readonly string[]) {
  try {
    execFileSync('bash', args as string[], { cwd, uid: 65_534, gid: 65_534, stdio: 'pipe' });
    return { status: 0, err: '' };
  } catch (error) {
    const { status, stderr } = error as { status: number | null; stderr?: Buffer };
    return status === null ? null : { status, err: String(stderr) };
  }
}

test('a name that is no text is found as an argument, whatever bytes it has', async () => {
  const folder = await temporaryFolder();
  const wav = await samples.wav();
  const place = (byte: number) =>
    Buffer.concat([Buffer.from(`${folder}/caf`), Buffer.of(byte), Buffer.from('.wav')]);
  await writeFile(place(0xe9), wav);
  const line = `${process.execPath} ${resolve('bin/bijou')} probe caf$'\\xe9'.wav --json`;
  const run = () => execFileSync('bash', ['-c', line], { cwd: folder }).toString();
  expect(JSON.parse(run())).toMatchObject([{ file: 'caf\ufffd.wav', frames: 44_100 }]);
  // By the name that a folder's list shows, too.
  expect((await bijou(folder, 'probe', 'café.wav', '--json')).status).toBe(0);
  // Another one that looks the same is no trouble where the system still knows the bytes.
  await writeFile(place(0xe8), 'no sound');
  expect(JSON.parse(run())).toMatchObject([{ frames: 44_100 }]);
});

test('marks in names that a terminal would obey are shown, and JSON keeps them', async () => {
  const name = 'red \u001b[31m bell \u009b2J\nnext.wav';
  const folder = await put(await temporaryFolder(), { [name]: await tone(1) });
  const { out } = await bijou(folder, 'probe', name);
  expect(out).toContain('red \\u001b[31m bell \\u009b2J\\u000anext.wav');
  expect(out).not.toMatch(/[\u001b\u009b]/);
  const failed = await bijou(folder, 'probe', `${name}.none`);
  expect(failed.err).not.toMatch(/[\u001b\u009b]/);
  const json = await bijou(folder, 'probe', name, '--json');
  expect(JSON.parse(json.out)).toMatchObject([{ file: name }]);
  expect(json.out).not.toMatch(/[\u001b\u009b]/);
});

test('sentences fit what was wrong', async () => {
  const folder = await put(await temporaryFolder(), { 'a.wav': await tone(1) });
  const cases: [string, RegExp][] = [
    ['convert a.wav --out o --rate 44,1', /Write it with a point\. Give a sample rate in Hz/],
    ['loop show a.wav --start 5', /The loop starts behind the sound/],
    ['loop make a.wav --start 5 --out o', /The loop starts behind the sound/],
    ['nonsense --help', /There is no command "nonsense"/],
  ];
  for (const [args, sentence] of cases) {
    const { status, err } = await bijou(folder, ...words(args));
    expect([args, status === 0]).toEqual([args, false]);
    expect(err).toMatch(sentence);
  }
});

test('few open files are said in words', async () => {
  const folder = await put(await temporaryFolder(), {
    'in/a.wav': await tone(3),
    'in/b.wav': await tone(3),
  });
  const node = `${process.execPath} ${resolve('bin/bijou')}`;
  for (const most of [28, 36, 46, 52]) {
    const line = `ulimit -n ${most}; ${node} convert in --out o${most} --threads 8 2>&1; true`;
    const said = execFileSync('bash', ['-c', line], { cwd: folder }).toString();
    expect(said).not.toMatch(/at .*node:|Node\.js v|EMFILE/);
  }
});

/** How a command is called, as far as README says so in its blocks. */
const usageOf = (readme: string, command: string) =>
  [...readme.matchAll(/^bin\/bijou (\w+)([^]*?)(?=^bin\/bijou|^```)/gm)]
    .flatMap(([, name, rest]) => (name === command ? rest! : []))
    .join(' ');

test('README names every option that the help does', async () => {
  const readme = await readFile('README.md', 'utf8');
  const { out: help } = await bijou('.', 'help');
  const commands = [...help.matchAll(/^ {2}(\w+) /gm)]
    .map(([, name]) => name!)
    .filter((name) => name !== 'help');
  const missing: string[] = [];
  for (const command of commands) {
    const pages = [await bijou('.', command, '--help')];
    for (const [, sub] of pages[0]!.out.matchAll(/^ {2}(show|make|check) /gm)) {
      pages.push(await bijou('.', command, sub!, '--help'));
    }
    for (const { out } of pages) {
      for (const [, option] of out.matchAll(/^ {2}(?:-\w, )?(--[\w-]+)/gm)) {
        if (option !== '--help' && !usageOf(readme, command).includes(option!)) {
          missing.push(`${command} ${option}`);
        }
      }
    }
  }
  expect(missing).toEqual([]);
});

test('a data folder that another version of Node was built for says which command cures it', async () => {
  const { nodeVersionFault } = await import('@/server/db/open');
  const raw = new Error(
    "The module 'better_sqlite3.node' was compiled against a different Node.js version using NODE_MODULE_VERSION 115.",
  );
  Object.assign(raw, { code: 'ERR_DLOPEN_FAILED' });
  expect(nodeVersionFault(raw)).toMatchObject({
    hint: expect.stringMatching(/npm rebuild better-sqlite3/),
  });
  expect(nodeVersionFault(new Error('else'))).toBeNull();
  expect((await call('/nowhere', '.', ...words('build --project 1 --out o'))).status).toBe(2);
});
