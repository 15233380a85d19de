import { existsSync } from 'node:fs';
import { readFile, rm } from 'node:fs/promises';
import { decode, encode, samples } from '../core/files';
import { noise, sine } from '../core/signals';
import { cleanUp, freshBijou, storedFiles, streamOf, unzipped } from './folder';

afterAll(cleanUp);

async function withSound() {
  const { bijou, folder } = await freshBijou();
  const project = bijou.projects.add('Test');
  const bytes = await encode(
    [sine(48_000, 500, 96_000), sine(48_000, 800, 96_000)],
    48_000,
    'wav',
    { bits: 24 },
  );
  const { sound } = await bijou.sounds.add(project, 'tone.wav', streamOf(bytes), bytes.length);
  await bijou.jobs.idle();
  return { bijou, folder, project, bytes, sound: bijou.sounds.byId(sound.id) };
}

test('a file becomes a sound with facts, a picture and samples', async () => {
  const { bijou, sound, bytes } = await withSound();
  expect(sound).toMatchObject({
    state: 'ready',
    name: 'tone',
    facts: {
      container: 'wav',
      sampleRateHz: 48_000,
      channels: 2,
      bitDepth: 24,
      frames: 96_000,
      bytes: bytes.length,
    },
  });
  const source = { sha256: sound.sourceSha256 };
  const overview = await bijou.listening.ask(source, 'peaks', {
    start: 0,
    end: 96_000,
    columns: 100,
  });
  // Smallest, largest and RMS of a hundred columns of two channels.
  expect(overview.length).toBe(600);
  expect(overview[50 * 3 + 1]).toBeCloseTo(0.5, 2);
  const close = await bijou.listening.ask(source, 'peaks', {
    start: 1_000,
    end: 1_010,
    columns: 10,
  });
  const heard = await bijou.listening.ask(source, 'pcm', { start: 1_000, frames: 10 });
  expect(heard.samples.length).toBe(20);
  for (let i = 0; i < 10; i++) expect(close[i * 3]).toBe(heard.samples[i * 2]);
});

test.each([
  ['a short sound, which has no copy', false, () => samples.mp3()],
  ['a long one', true, () => encode([noise(1_050_000), noise(1_050_000, 2)], 44_100, 'flac', {})],
])(
  'pictures and working copies that were thrown away are made again: %s',
  async (_, isLong, make) => {
    const { bijou } = await freshBijou();
    const project = bijou.projects.add('Test');
    const bytes = await make();
    const { sound } = await bijou.sounds.add(project, 'tone', streamOf(bytes), bytes.length);
    await bijou.jobs.idle();
    const copy = bijou.store.path(sound.sourceSha256, 'pcm.wav');
    const asked = { sha256: sound.sourceSha256 };
    const look = () => bijou.listening.ask(asked, 'peaks', { start: 0, end: 44_100, columns: 50 });
    const before = await look();
    // Nobody has listened yet.
    expect(existsSync(copy)).toBe(false);
    const heard = () => bijou.listening.ask(asked, 'pcm', { start: 30_000, frames: 1_000 });
    const sounding = await heard();
    const { channels } = await decode(bytes);
    const whole = channels.map((channel) => channel.subarray(30_000, 31_000));
    const { samples: found } = sounding;
    expect(found).toHaveLength(1_000 * channels.length);
    expect(Array.from(found).sort()).toEqual(
      whole.flatMap((channel) => Array.from(channel)).sort(),
    );
    // What is asked of all of it waits for the copy.
    const levels = () => bijou.listening.ask(asked, 'levels', { isThorough: false });
    const loud = await levels();
    expect(existsSync(copy)).toBe(isLong);
    expect(await heard()).toEqual(sounding);
    await rm(bijou.store.path(sound.sourceSha256, 'peaks'));
    await rm(copy, { force: true });
    const [again] = await Promise.all([look(), look()]);
    expect(again).toEqual(before);
    expect(await heard()).toEqual(sounding);
    expect(await levels()).toEqual(loud);
    expect(existsSync(copy)).toBe(isLong);
  },
);

test('built, verified, not encoded twice, out of date after a change', async () => {
  const { bijou, project, sound } = await withSound();
  bijou.packs.assign(sound, 'web-page', {});
  bijou.packs.build(project);
  expect(bijou.jobs.open(project)).toHaveLength(2);
  await bijou.jobs.idle();
  const [line] = bijou.packs.lines(project);
  expect(line!.outputs.map(({ name, state, upToDate }) => [name, state, upToDate])).toEqual([
    ['tone.ogg', 'done', true],
    ['tone.mp3', 'done', true],
  ]);
  for (const { verification } of line!.outputs) {
    expect(verification).toMatchObject({ ok: true, framesExpected: 96_000, framesFound: 96_000 });
  }
  bijou.packs.build(project);
  expect(bijou.jobs.open(project)).toHaveLength(0);

  bijou.sounds.setRecipe(sound.id, {
    version: 1,
    steps: [{ kind: 'keep', on: true, params: { startFrame: 100, endFrame: 50_100 } }],
  });
  expect(bijou.packs.lines(project)[0]!.outputs.map(({ upToDate }) => upToDate)).toEqual([
    false,
    false,
  ]);
  bijou.packs.build(project);
  await bijou.jobs.idle();
  expect(bijou.packs.lines(project)[0]!.outputs[1]!.verification!.facts.frames).toBe(50_000);
  expect(await readFile(bijou.store.path(sound.sourceSha256))).toHaveLength(sound.bytes);

  const { name, stream } = bijou.packs.pack(project, null);
  expect(name).toBe('Test.zip');
  const packed = await unzipped(stream);
  expect([...packed.keys()]).toEqual(['manifest.json', 'web-page/tone.ogg', 'web-page/tone.mp3']);

  // Names are given when a pack is laid out, not when a file was made.
  bijou.edits.edit(project, [{ soundId: sound.id, name: 'bell' }]);
  const renamed = await unzipped(bijou.packs.pack(project, null).stream);
  expect([...renamed.keys()]).toEqual(['manifest.json', 'web-page/bell.ogg', 'web-page/bell.mp3']);
  expect(renamed.get('web-page/bell.mp3')).toEqual(packed.get('web-page/tone.mp3'));
});

test('a lossy source that is what the brief wants is handed on byte for byte', async () => {
  const { bijou } = await freshBijou();
  const project = bijou.projects.add('Test');
  const bytes = await samples.mp3();
  const { sound } = await bijou.sounds.add(project, 'tone.mp3', streamOf(bytes), bytes.length);
  await bijou.jobs.idle();
  bijou.packs.assign(bijou.sounds.byId(sound.id), 'web-page', {});
  const [line] = bijou.packs.lines(project);
  expect(line!.plans.map(({ steps }) => steps.at(-1))).toEqual([
    'encode with quality 5',
    expect.stringMatching(/^copy the file as it is/),
  ]);
  bijou.packs.build(project);
  await bijou.jobs.idle();
  const { outputs } = bijou.packs.lines(project)[0]!;
  expect(outputs.map(({ state }) => state)).toEqual(['done', 'done']);
  expect(outputs[1]!.sha256).toBe(sound.sourceSha256);
  expect(outputs[0]!.sha256).not.toBe(sound.sourceSha256);
});

test('a finished file that was thrown away is made again, byte for byte', async () => {
  const { bijou, project, sound } = await withSound();
  bijou.packs.assign(sound, 'ar-filter', {});
  bijou.packs.build(project);
  await bijou.jobs.idle();
  const output = () => bijou.packs.output(bijou.packs.lines(project)[0]!.outputs[0]!.id);
  const { sha256 } = output();
  await rm(bijou.store.path(sha256));
  expect(output).toThrow(/not there/);
  bijou.packs.build(project);
  await bijou.jobs.idle();
  expect(output().sha256).toBe(sha256);
});

test('what is heard as shaped is what is built, bit for bit', async () => {
  const { bijou, project, sound } = await withSound();
  const recipe = bijou.sounds.setRecipe(sound.id, {
    version: 1,
    steps: [{ kind: 'keep', on: true, params: { startFrame: 777, endFrame: 48_777 } }],
  }).recipe;
  bijou.packs.assign(sound, 'wav-master', {});
  bijou.packs.build(project);
  await bijou.jobs.idle();
  const output = bijou.packs.output(bijou.packs.lines(project)[0]!.outputs[0]!.id);
  const shaped = { sha256: sound.sourceSha256, recipe };
  const heard = await bijou.listening.ask(shaped, 'pcm', { start: 0, frames: 48_000 });
  const built = await bijou.listening.ask({ sha256: output.sha256 }, 'pcm', {
    start: 0,
    frames: 48_000,
  });
  expect(built.samples).toEqual(heard.samples);
  // Gone to directly, it is the same as from the beginning on.
  const middle = await bijou.listening.ask(shaped, 'pcm', { start: 30_000, frames: 500 });
  expect(middle.samples).toEqual(heard.samples.slice(30_000 * 2, 30_500 * 2));
});

test('a bad file is refused in words, its bytes are not kept, and the good ones go on', async () => {
  const { bijou, folder } = await freshBijou();
  const project = bijou.projects.add('Test');
  const text = new TextEncoder().encode('not a sound');
  const good = await samples.ogg();
  await bijou.sounds.add(project, '../../"evil" 🐚.wav', streamOf(text), text.length);
  await bijou.sounds.add(project, 'good.ogg', streamOf(good), good.length);
  await bijou.jobs.idle();
  const [refused, ready] = bijou.sounds.ofProject(project);
  expect(refused).toMatchObject({
    state: 'refused',
    name: '"evil" 🐚',
    error: { code: 'not-audio' },
  });
  expect(ready).toMatchObject({ state: 'ready', facts: { codec: 'vorbis' } });
  const kept = await storedFiles(folder);
  expect(kept.every((name) => name.startsWith(ready!.sourceSha256))).toBe(true);
});

test('an upload that breaks off, is empty or is too large leaves nothing behind', async () => {
  const { bijou, folder } = await freshBijou();
  const project = bijou.projects.add('Test');
  const bytes = await samples.wav();
  const add = (stream: AsyncIterable<Uint8Array>, length: number | null) =>
    bijou.sounds.add(project, 'x.wav', stream, length);
  await expect(add(streamOf(bytes, 1000), bytes.length)).rejects.toMatchObject({ code: 'cut-off' });
  await expect(add(streamOf(bytes.subarray(0, 99)), bytes.length)).rejects.toMatchObject({
    code: 'cut-off',
  });
  await expect(add(streamOf(new Uint8Array(0), 0), 500)).rejects.toMatchObject({ code: 'cut-off' });
  await expect(add(streamOf(new Uint8Array(0)), 0)).rejects.toMatchObject({ code: 'empty-file' });
  process.env['BIJOU_MAX_BYTES'] = '1000';
  try {
    await expect(add(streamOf(bytes), bytes.length)).rejects.toMatchObject({ code: 'too-large' });
    await expect(add(streamOf(bytes), null)).rejects.toMatchObject({ code: 'too-large' });
  } finally {
    delete process.env['BIJOU_MAX_BYTES'];
  }
  expect(await storedFiles(folder)).toEqual([]);
  expect(bijou.sounds.ofProject(project)).toEqual([]);
});

test('the same bytes are one sound; taken out and brought back it is as it was', async () => {
  const { bijou, project, sound, bytes } = await withSound();
  const again = await bijou.sounds.add(project, 'other name.wav', streamOf(bytes), bytes.length);
  expect(again).toMatchObject({ already: true, sound: { id: sound.id } });
  bijou.edits.edit(project, [{ soundId: sound.id, removed: true }]);
  expect(bijou.sounds.ofProject(project)).toEqual([]);
  bijou.edits.edit(project, [{ soundId: sound.id, removed: false }]);
  const { revision, ...others } = sound;
  expect(bijou.sounds.ofProject(project)).toMatchObject([others]);
  expect(bijou.sounds.byId(sound.id).revision).toBeGreaterThan(revision);
});

test('cancelling: what runs and what waits, with nothing left half-written', async () => {
  const { bijou, folder } = await freshBijou();
  const project = bijou.projects.add('Test');
  // Long enough to be caught at work.
  const long = await encode([noise(48_000 * 60, 3), noise(48_000 * 60, 4)], 48_000, 'wav', {
    bits: 16,
  });
  const { sound } = await bijou.sounds.add(project, 'long.wav', streamOf(long), long.length);
  await bijou.jobs.idle();
  bijou.packs.assign(sound, 'web-page', {});
  bijou.packs.assign(sound, 'ar-filter', {});
  bijou.packs.build(project);
  await new Promise((resolve) => setTimeout(resolve, 300));
  const open = bijou.jobs.open(project);
  expect(open.map(({ state }) => state).sort()).toEqual(['queued', 'running', 'running']);
  await Promise.all(open.map(({ id }) => bijou.jobs.cancel(id)));
  await bijou.jobs.idle();
  const states = bijou.packs
    .lines(project)
    .flatMap(({ outputs }) => outputs.map(({ state }) => state));
  expect(states).toEqual(['cancelled', 'cancelled', 'cancelled']);
  const kept = await storedFiles(folder);
  expect(kept.every((name) => name.startsWith(sound.sourceSha256))).toBe(true);
  expect(await bijou.jobs.cancel(open[0]!.id)).toBe(false);
});

test('recipes from outside are checked', async () => {
  const { bijou, sound } = await withSound();
  const keep = (startFrame: number, endFrame: number) => ({
    version: 1,
    steps: [{ kind: 'keep', on: true, params: { startFrame, endFrame } }],
  });
  for (const recipe of [
    keep(5, 5),
    keep(9, 3),
    keep(0, 96_001),
    keep(-1, 5),
    keep(0.5, 9),
    {},
    null,
    [],
  ]) {
    expect(() => bijou.sounds.setRecipe(sound.id, recipe)).toThrow(
      expect.objectContaining({ code: expect.stringMatching(/^bad-/) }),
    );
  }
  const unknown = { version: 1, steps: [{ kind: 'sparkle', on: true, params: {} }] };
  expect(bijou.sounds.setRecipe(sound.id, unknown).recipe).toEqual(unknown);
  expect(bijou.sounds.byId(sound.id).recipeProblem!.message).toMatch(/does not know/);
});
