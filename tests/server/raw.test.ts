import { builtinBriefs } from '@/core/brief/builtin';
import { mkdir, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { parseRaw } from '@/core/formats/raw/reader';
import { fileScratch } from '@/server/files/bytes';
import { encode } from '../core/files';
import { noise, sine } from '../core/signals';
import { cleanUp, freshBijou, streamOf, temporaryFolder } from './folder';

afterAll(cleanUp);

const toy = () => Uint8Array.from({ length: 4_000 }, (_, i) => 128 + 90 * Math.sin(i / 7));

test('samples without a header are refused, then read as they are described, and built', async () => {
  const { bijou } = await freshBijou();
  const project = bijou.projects.add('Toy');
  const bytes = toy();
  const first = await bijou.sounds.add(project, 'toy.raw', streamOf(bytes), bytes.length);
  await bijou.jobs.idle();
  expect(bijou.sounds.byId(first.sound.id)).toMatchObject({
    state: 'refused',
    error: { code: 'not-audio' },
  });

  const raw = parseRaw('u8,8000,1');
  const { sound, already } = await bijou.sounds.add(
    project,
    'toy.raw',
    streamOf(bytes),
    bytes.length,
    { raw },
  );
  await bijou.jobs.idle();
  expect(already).toBe(false);
  expect(bijou.sounds.byId(sound.id)).toMatchObject({
    state: 'ready',
    raw,
    facts: { container: 'raw', frames: 4_000, sampleRateHz: 8_000 },
  });
  const heard = await bijou.listening.ask({ sha256: sound.sourceSha256 }, 'pcm', {
    start: 0,
    frames: 4_000,
  });
  expect(heard.samples[0]).toBe(0);

  bijou.packs.assign(bijou.sounds.byId(sound.id), 'pocket-toy', {});
  bijou.packs.build(project);
  await bijou.jobs.idle();
  const [line] = bijou.packs.lines(project);
  expect(line!.outputs).toMatchObject([
    { name: 'toy.wav', state: 'done', verification: { ok: true } },
  ]);
});

test('every built-in brief builds from an ordinary sound', async () => {
  const { bijou } = await freshBijou();
  const project = bijou.projects.add('All');
  const bytes = await encode([sine(44_100, 500, 44_100), noise(44_100, 2, 0.1)], 44_100, 'wav', {
    bits: 16,
  });
  const { sound } = await bijou.sounds.add(project, 'bell.wav', streamOf(bytes), bytes.length);
  await bijou.jobs.idle();
  for (const { id } of builtinBriefs) bijou.packs.assign(bijou.sounds.byId(sound.id), id, {});
  bijou.packs.build(project);
  await bijou.jobs.idle();
  expect(bijou.packs.lines(project)).toHaveLength(builtinBriefs.length);
  for (const line of bijou.packs.lines(project)) {
    const { briefId } = line.assignment;
    expect([briefId, line.obstacle]).toEqual([briefId, null]);
    const { files } = builtinBriefs.find(({ id }) => id === briefId)!;
    expect(line.outputs.map(({ fileId }) => fileId)).toEqual(files.map(({ id }) => id));
    for (const { state, error } of line.outputs) {
      expect([briefId, state, error]).toEqual([briefId, 'done', null]);
    }
  }
});

test('bytes that are put aside leave no file behind', async () => {
  const folder = join(await temporaryFolder(), 'aside');
  await mkdir(folder);
  const scratch = await fileScratch(join(folder, 'scratch'));
  expect(await readdir(folder)).toEqual([]);
  const whole = Uint8Array.from({ length: 700_000 }, (_, i) => i % 251);
  for (let at = 0; at < whole.length; at += 9_999) await scratch.write(whole.slice(at, at + 9_999));
  expect(scratch.size).toBe(whole.length);
  expect(
    Buffer.compare(await scratch.read(123_456, 50_000), whole.subarray(123_456, 173_456)),
  ).toBe(0);
  expect((await scratch.read(699_990, 50)).length).toBe(10);
  await scratch.free();
});
