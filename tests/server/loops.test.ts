import type { LoopForMany } from '@/core/loop/forMany';
import { usualListening } from '@/core/loop/listening';
import { memorySource } from '@/core/bytes/source';
import { probe } from '@/core/measure/probe';
import type { Bijou } from '@/server/bijou';
import { encode, step, written } from '../core/files';
import { noise } from '../core/signals';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { bringIn } from './bringing';
import { cleanUp, freshBijou, unzipped } from './folder';

afterAll(cleanUp);

const RATE = 8_000;
const loop = (more: object = {}) =>
  step('loop', {
    startFrame: 8_000,
    endFrame: 24_000,
    introFrames: 8_000,
    tailFrames: 4_000,
    ...more,
  });
const tail = { seam: 'tail', tailDb: 0 };

async function withSong(...steps: ReturnType<typeof step>[]) {
  const { bijou } = await freshBijou();
  const project = bijou.projects.add('Skerry');
  const song = [noise(32_000, 1, 0.4), noise(32_000, 2, 0.4)];
  await bringIn(bijou, project, { 'song.wav': await encode(song, RATE, 'wav', { bits: 16 }) });
  const [{ id }] = bijou.sounds.ofProject(project) as unknown as [{ id: number }];
  bijou.sounds.setRecipe(id, { version: 1, steps });
  await bijou.jobs.idle();
  return { bijou, project, id };
}

async function heard(bijou: Bijou, id: number): Promise<Float32Array> {
  const { sourceSha256, recipe } = bijou.sounds.byId(id);
  const told = { start: 0, frames: 100_000 };
  return (await bijou.listening.ask({ sha256: sourceSha256, recipe }, 'pcm', told)).samples;
}

describe('pieces of a loop', () => {
  test('are sounds of their own that add up and follow their source', async () => {
    const { bijou, project, id } = await withSong(loop(tail));
    const pieces = bijou.joins.createPieces(id, '{name} {part}');
    await bijou.jobs.idle();
    expect(pieces.map(({ name }) => name)).toEqual(['song intro', 'song first', 'song repeat']);
    const all = async () => Promise.all(pieces.map((piece) => heard(bijou, piece.id)));
    const whole = await heard(bijou, id);
    const joined = (await all()).flatMap((part) => [...part]);
    expect(Float32Array.from(joined)).toEqual(whole.subarray(0, joined.length));
    expect(joined).toHaveLength(2 * (8_000 + 16_000 + 16_000));
    expect(bijou.sounds.byId(pieces[2]!.id).facts?.loop).toEqual({
      startFrame: 0,
      endFrame: 16_000,
    });
    // Half as loud, and its loop shorter.
    const steps = [loop({ ...tail, endFrame: 20_000 }), step('gain', { gainDb: -6 })];
    bijou.sounds.setRecipe(id, { version: 1, steps });
    await bijou.jobs.idle();
    expect((await all()).map(({ length }) => length / 2)).toEqual([8_000, 12_000, 12_000]);
    expect((await all())[1]![500]).toBeCloseTo(whole[16_500]! * 10 ** (-6 / 20), 5);
    // Without the loop there is nothing to follow, which is said; undoing brings it back.
    bijou.sounds.setRecipe(id, { version: 1, steps: [] });
    await bijou.jobs.idle();
    expect(bijou.sounds.byId(pieces[0]!.id).error?.message).toMatch(
      /“song” cannot be joined: No loop/,
    );
    bijou.edits.undo(project);
    await bijou.jobs.idle();
    expect(bijou.sounds.byId(pieces[0]!.id)).toMatchObject({ error: null, state: 'ready' });
  });

  test('are named by a pattern, and taken back in one step', async () => {
    const { bijou, project, id } = await withSong(loop({ introFrames: 0 }));
    const pieces = bijou.joins.createPieces(id, '{part} of {name} at {rate}');
    expect(pieces.map(({ name }) => name)).toEqual([
      'first of song at 8kHz',
      'repeat of song at 8kHz',
    ]);
    await bijou.jobs.idle();
    bijou.edits.undo(project);
    expect(bijou.sounds.ofProject(project).map(({ name }) => name)).toEqual(['song']);
    expect(() => bijou.joins.createPieces(id, '{name}')).toThrow(/\{part\} is missing/);
    expect(() => bijou.joins.createPieces(id, '{part} {who}')).toThrow(/knows no \{who\}/);
    bijou.sounds.setRecipe(id, { version: 1, steps: [] });
    expect(() => bijou.joins.createPieces(id, '{name} {part}')).toThrow(/No loop is marked/);
  });
});

describe('a handover set', () => {
  test('is one zip of pieces, a copy to listen to and what says how they follow', async () => {
    const { bijou, project, id } = await withSong(loop(tail));
    const listening = { ...usualListening, times: 2, fadeAfterSeconds: 1, fadeSeconds: 0.5 };
    const { id: set } = bijou.oneOffs.beginHandover(id, {
      bits: 16,
      listening,
      tags: { title: 'Waltz', artist: 'The keeper' },
    });
    await bijou.jobs.idle();
    const { name, stream } = bijou.oneOffs.zip(set);
    expect(name).toBe('song.zip');
    const files = await unzipped(stream);
    expect([...files.keys()]).toEqual([
      'song intro.wav',
      'song first.wav',
      'song repeat.wav',
      'song listening.mp3',
      'song cue.json',
      'song cue.txt',
    ]);
    const factsOf = async (file: string) => (await probe(memorySource(files.get(file)!))).facts;
    expect(await factsOf('song first.wav')).toMatchObject({ bitDepth: 16, frames: 16_000 });
    const copy = await factsOf('song listening.mp3');
    expect(copy).toMatchObject({ tags: { title: 'Waltz', artist: 'The keeper' }, codec: 'mp3' });
    expect(copy.seconds).toBeCloseTo(0.015 + 1 + 2 + 1.5 + 2, 2);
    expect(JSON.parse(files.get('song cue.json')!.toString())).toMatchObject({
      pieces: [{ piece: 'intro' }, { piece: 'first' }, { piece: 'repeat', plays: 'around' }],
    });
    expect(bijou.oneOffs.latestHandover(id)?.id).toBe(set);
    // Conversions do not show it as theirs.
    expect(bijou.oneOffs.latest(project)).toBeNull();
  });

  test('needs a loop', async () => {
    const { bijou, id } = await withSong();
    const begin = () => bijou.oneOffs.beginHandover(id, { bits: 24, listening: usualListening });
    expect(begin).toThrow(/No loop is marked/);
  });
});

test('the seam of a recipe is known as soon as it was read, and a click is a worry', async () => {
  const { bijou, id } = await withSong(
    step('gain', { gainDb: -3 }),
    loop({ introFrames: 0, tailFrames: 0 }),
  );
  expect(bijou.sounds.byId(id).seam?.score).toBeGreaterThan(80);
  const low = (seed: number) => {
    let at = 0;
    return noise(32_000, seed).map((x) => (at = at * 0.995 + x * 0.05));
  };
  const { bijou: other } = await freshBijou();
  const project = other.projects.add('Skerry');
  const marks = { tags: {}, markers: [], loop: { startFrame: 4_000, endFrame: 20_100 } };
  const rumble = await written(
    pcmFromChannels([low(3)], RATE),
    'wav',
    { bits: 16 },
    undefined,
    marks,
  );
  await bringIn(other, project, { 'rumble.wav': rumble });
  const [sound] = other.sounds.ofProject(project);
  expect(sound).toMatchObject({
    seam: { score: expect.any(Number) as number },
    worries: [{ code: 'loop-clicks', state: 'open' }],
  });
  other.worries.cure(project, 'loop-clicks', [sound!.id]);
  await other.jobs.idle();
  const cured = other.sounds.byId(sound!.id);
  expect(cured.seam!.score).toBeGreaterThan(sound!.seam!.score);
  expect(cured.worries.filter(({ state }) => state === 'open')).toEqual([]);
});

test('where a format has no place for loop points, they stand in the manifest, in its own frames', async () => {
  const { bijou, project, id } = await withSong(loop());
  bijou.packs.assign(bijou.sounds.byId(id), 'web-page', {});
  bijou.packs.build(project);
  await bijou.jobs.idle();
  const files = await unzipped(bijou.packs.pack(project, 'web-page').stream);
  const manifest = JSON.parse(files.get('manifest.json')!.toString()) as {
    path: string;
    sampleRateHz: number;
    loop: { startFrame: number; endFrame: number };
    loopParts: object;
  }[];
  expect(manifest.length).toBeGreaterThan(1);
  for (const { sampleRateHz, loop: at, loopParts } of manifest) {
    expect(at.endFrame - at.startFrame).toBe((16_000 * sampleRateHz) / RATE);
    expect(at.startFrame).toBe((8_000 * sampleRateHz) / RATE);
    expect(loopParts).toMatchObject({ intro: { startFrame: 0 }, first: null });
  }
  expect(manifest.map(({ path }) => path.split('.').at(-1))).toContain('mp3');
});

describe('loops of many sounds', () => {
  const wish: LoopForMany = {
    where: 'own',
    seam: 'crossfade',
    crossfadeSeconds: 0.2,
    curve: 'equal-power',
    tailSeconds: 1,
    tailDb: 0,
  };

  async function withMany() {
    const { bijou } = await freshBijou();
    const project = bijou.projects.add('Skerry');
    await bringIn(bijou, project, {
      'one.wav': await encode([noise(16_000, 1)], RATE, 'wav', { bits: 16 }),
      'two.wav': await encode([noise(16_000, 2)], RATE, 'wav', { bits: 16 }),
      'long.wav': await encode([noise(32_000, 3)], 16_000, 'wav', { bits: 16 }),
      'dot.wav': await encode([noise(20, 4)], RATE, 'wav', { bits: 16 }),
    });
    const ids = bijou.sounds.ofProject(project).map(({ id }) => id);
    const steps = (id: number) => bijou.sounds.byId(id).recipe.steps;
    return { bijou, project, ids, steps };
  }

  test('are made at each sound’s own rate, in one change; what cannot be is named', async () => {
    const { bijou, project, ids, steps } = await withMany();
    const { failed } = bijou.loops.apply(project, ids, { ...wish, where: 'whole' });
    expect(failed).toMatchObject([{ name: 'dot', message: expect.stringMatching(/too short/) }]);
    expect(ids.slice(0, 3).map((id) => steps(id)[0]!.params)).toMatchObject([
      { startFrame: 1_600, endFrame: 16_000, crossfadeFrames: 1_600 },
      { startFrame: 1_600, endFrame: 16_000, crossfadeFrames: 1_600 },
      { startFrame: 3_200, endFrame: 32_000, crossfadeFrames: 3_200 },
    ]);
    // Again: the loop that is there is changed, none is added.
    bijou.loops.apply(project, ids.slice(0, 3), { ...wish, seam: 'cut' });
    expect(steps(ids[0]!)).toMatchObject([{ kind: 'loop', params: { seam: 'cut' } }]);
    bijou.edits.undo(project);
    const behind = bijou.loops.apply(project, ids.slice(0, 1), { ...wish, seam: 'tail' });
    expect(behind.failed).toMatchObject([
      { message: expect.stringMatching(/Nothing lies behind/) },
    ]);
    bijou.edits.undo(project);
    expect(ids.map((id) => steps(id).length)).toEqual([0, 0, 0, 0]);
  });

  test('have the same points on stems that are aligned, and only on those', async () => {
    const { bijou, project, ids, steps } = await withMany();
    const where = { startFrame: 2_000, endFrame: 12_000 };
    bijou.loops.apply(project, ids.slice(0, 2), {
      ...wish,
      where,
      seam: 'tail',
      tailSeconds: 0.25,
    });
    for (const id of ids.slice(0, 2)) {
      expect(steps(id)).toMatchObject([{ params: { ...where, tailFrames: 2_000, seam: 'tail' } }]);
    }
    const apply = () => bijou.loops.apply(project, ids.slice(0, 3), { ...wish, where });
    expect(apply).toThrow(/“one” and “long” are not of the same length and rate/);
  });

  test('that a file marks as running back and forth are unrolled', async () => {
    const { bijou } = await freshBijou();
    const project = bijou.projects.add('Skerry');
    const loopOf = { startFrame: 3_000, endFrame: 9_000, isBackAndForth: true as const };
    const marks = { tags: {}, markers: [], loop: loopOf };
    const file = await written(
      pcmFromChannels([noise(16_000)], RATE),
      'wav',
      { bits: 16 },
      undefined,
      marks,
    );
    await bringIn(bijou, project, { 'back.wav': file });
    const [{ id }] = bijou.sounds.ofProject(project) as unknown as [{ id: number }];
    bijou.loops.apply(project, [id], { ...wish, seam: null });
    expect(bijou.sounds.byId(id).recipe.steps).toMatchObject([
      { kind: 'unroll', params: { startFrame: 3_000, endFrame: 9_000 } },
      { kind: 'loop', params: { startFrame: 3_000, endFrame: 14_998 } },
    ]);
  });
});
