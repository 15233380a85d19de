import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdir, readdir, readFile, rm, stat, utimes, writeFile } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { sine } from '../core/signals';
import { encode } from '../core/files';
import { cleanUp, temporaryFolder } from '../server/folder';
import { build, projectWith, RATE, sha256, states, tone } from './building';
import { bijouFed } from './run';

afterAll(cleanUp);

test('everything is built, proved and recorded; the second call finds nothing to do, the third what has gone', async () => {
  const { folder } = await projectWith({
    'Gull cry.wav': {
      bytes: await tone(1),
      group: 'birds',
      to: { 'game-mod': {}, 'web-page': {} },
    },
    'bell.wav': { bytes: await tone(2), to: { 'game-mod': { name: 'bird' } } },
    'against.wav': {
      bytes: await encode([sine(RATE, 300, 4_410), sine(RATE, 300, 4_410, -0.5)], RATE, 'wav', {
        bits: 16,
      }),
      to: { 'ar-filter': {} },
    },
    'long.wav': {
      bytes: await encode([new Float32Array(5 * 8_000).fill(0.1)], 8_000, 'wav', { bits: 8 }),
      to: { 'pocket-toy': {} },
    },
  });
  const out = join(await temporaryFolder(), 'out');
  const first = await build(folder, out);
  expect(first.status).toBe(1);
  expect(states(first)).toEqual({
    'game-mod/birds/gull_cry.ogg': 'built',
    'web-page/Gull cry.ogg': 'cached',
    'web-page/Gull cry.mp3': 'built',
    'game-mod/bird.ogg': 'built',
    'ar-filter/against.m4a': 'skipped',
    'pocket-toy/long.wav': 'failed',
  });
  expect(first.totals).toMatchObject({
    outputs: 6,
    built: 3,
    cached: 1,
    failed: 1,
    skipped: 1,
    unchanged: 0,
  });
  for (const { path, sha256: told, bytes, state } of first.outputs) {
    if (state !== 'built' && state !== 'cached') continue;
    expect(await sha256(join(out, path))).toBe(told);
    expect((await stat(join(out, path))).size).toBe(bytes);
  }
  const mod = first.outputs.find(({ path }) => path === 'game-mod/bird.ogg')!;
  expect(mod.verified).toEqual(
    expect.arrayContaining([
      { demand: 'format', asked: 'Ogg with Vorbis', found: 'Ogg with Vorbis', verdict: 'met' },
      { demand: 'sample-rate', asked: '44.1 or 48 kHz', found: '44.1 kHz', verdict: 'met' },
    ]),
  );
  expect(first.outputs.at(-1)!.error!.message).toMatch(/Too long/);
  expect((await readdir(out)).sort()).toEqual(['.bijou.json', 'game-mod', 'web-page']);

  const second = await build(folder, out, '--only', '{Gull*,bi*}', '--brief', 'game-mod');
  expect(second).toMatchObject({ status: 0, totals: { outputs: 1, unchanged: 1 } });
  expect(second.outputs[0]!.verified).toEqual(first.outputs[0]!.verified);

  await rm(join(out, 'web-page/Gull cry.mp3'));
  await writeFile(join(out, 'game-mod/bird.ogg'), 'somebody else');
  const third = await build(folder, out);
  expect(states(third)).toMatchObject({
    'game-mod/birds/gull_cry.ogg': 'unchanged',
    'web-page/Gull cry.mp3': 'built',
    'game-mod/bird.ogg': 'built',
  });
  expect(await sha256(join(out, 'game-mod/bird.ogg'))).toBe(mod.sha256);
});

test('files of others are kept, replaced or stood beside, as was said once for the folder', async () => {
  const { folder } = await projectWith({
    'bell.wav': { bytes: await tone(5), to: { 'wav-master': {} } },
  });
  const theirs = async () => {
    const out = join(await temporaryFolder(), 'out');
    await mkdir(join(out, 'wav-master'), { recursive: true });
    await writeFile(join(out, 'wav-master/bell.wav'), 'theirs');
    return out;
  };
  const kept = await theirs();
  expect(await build(folder, kept)).toMatchObject({
    outputs: [{ state: 'skipped', error: { code: 'already-there' } }],
  });
  expect(await readFile(join(kept, 'wav-master/bell.wav'), 'utf8')).toBe('theirs');
  expect(states(await build(folder, kept, '--existing', 'number'))).toEqual({
    'wav-master/bell-2.wav': 'built',
  });
  // Remembered, and what was numbered stays so.
  const again = await build(folder, kept);
  expect(states(again)).toEqual({ 'wav-master/bell-2.wav': 'unchanged' });
  expect(again.err).toMatch(/--existing number/);
  expect(await readFile(join(kept, 'wav-master/bell.wav'), 'utf8')).toBe('theirs');
  const replaced = await theirs();
  expect(states(await build(folder, replaced, '--existing', 'replace'))).toEqual({
    'wav-master/bell.wav': 'built',
  });
  expect((await readFile(join(replaced, 'wav-master/bell.wav'))).subarray(0, 4).toString()).toBe(
    'RIFF',
  );
});

test('it works beside the running application, and shares what that has made', async () => {
  const { folder, bijou, project } = await projectWith(
    { 'bell.wav': { bytes: await tone(6), to: { 'wav-master': {}, archive: {} } } },
    true,
  );
  bijou.packs.build(project, [bijou.packs.cells(project)[0]!.id]);
  await bijou.jobs.idle();
  const out = join(await temporaryFolder(), 'out');
  expect(states(await build(folder, out, '--threads', '1'))).toEqual({
    'wav-master/bell.wav': 'cached',
    'archive/bell.flac': 'built',
  });
});

test('a dry run writes nothing and says what it would come to', async () => {
  const { folder } = await projectWith({
    'bell.wav': { bytes: await tone(11), to: { 'wav-master': {} } },
  });
  const out = join(await temporaryFolder(), 'out');
  const dry = await build(folder, out, '--dry-run');
  expect(dry).toMatchObject({ status: 0, outputs: [{ state: 'built', sha256: null }] });
  expect(await readdir(join(out, '..'))).toEqual([]);
  const real = await build(folder, out);
  expect(dry.outputs[0]!.bytes).toBe(real.outputs[0]!.bytes);
  // Touched by a copier, but the same size: looked at anew and made again.
  await utimes(join(out, 'wav-master/bell.wav'), 5, 5);
  expect(states(await build(folder, out))).toEqual({ 'wav-master/bell.wav': 'built' });
});

test('killed in the middle of thirty files it goes on where it was, and comes to the same bytes', async () => {
  const names = Array.from({ length: 30 }, (_, n) => `s${n}.wav`);
  const sounds = await Promise.all(
    names.map(
      async (name, n) => [name, { bytes: await tone(100 + n), to: { 'game-mod': {} } }] as const,
    ),
  );
  const { folder } = await projectWith(Object.fromEntries(sounds));
  const [whole, killed] = [
    join(await temporaryFolder(), 'out'),
    join(await temporaryFolder(), 'out'),
  ];
  const clean = await build(folder, whole);
  expect(clean.totals).toMatchObject({ built: 30, failed: 0 });
  const args = ['build', '--project', 'Skerry', '--out', killed];
  const child = spawn(process.execPath, [resolve('bin/bijou'), ...args], {
    env: { ...process.env, BIJOU_DATA: folder },
  });
  const made = async () => (await readdir(join(killed, 'game-mod')).catch(() => [])).length;
  while ((await made()) < 10) await new Promise((later) => setTimeout(later, 5));
  child.kill('SIGKILL');
  await once(child, 'exit');
  expect(await made()).toBeLessThan(30);
  const rest = await build(folder, killed);
  expect(rest.totals).toMatchObject({ outputs: 30, failed: 0, skipped: 0 });
  expect(rest.outputs.map(({ path, sha256 }) => [path, sha256])).toEqual(
    clean.outputs.map(({ path, sha256 }) => [path, sha256]),
  );
  expect((await readdir(killed)).sort()).toEqual(['.bijou.json', 'game-mod']);
  expect((await build(folder, killed)).totals).toMatchObject({ unchanged: 30 });
});

test.each<[string[], RegExp]>([
  [['--project', 'Nowhere', '--out', 'x'], /"Skerry" \(1\)/],
  [['--project', '1', '--out', 'x', '--brief', 'nobody'], /no brief "nobody"/],
  [['--project', '1', '--out', 'x', '--existing', 'eat'], /keep, replace or number/],
  [['--project', '1', '--out', 'x', '--threads', '0'], /--threads/],
  [['--project', '1', '--out', '/dev/null/x'], /folder for results/],
  [['--project', '1'], /--out/],
])('a wrong call is status 2: %j', async (args, message) => {
  const { folder } = (wrong ??= await projectWith({}));
  const { status, err, out } = await bijouFed(
    null,
    { BIJOU_DATA: folder },
    folder,
    'build',
    ...args,
  );
  expect([status, out]).toEqual([2, '']);
  expect(err).toMatch(message);
});
let wrong: Awaited<ReturnType<typeof projectWith>> | undefined;
