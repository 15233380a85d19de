import type { Join } from '@/core/join/plan';
import type { Bijou } from '@/server/bijou';
import { decode, encode, step } from '../core/files';
import { noise } from '../core/signals';
import { readFile } from 'node:fs/promises';
import { bringIn } from './bringing';
import { cleanUp, freshBijou, storedFiles } from './folder';

afterAll(cleanUp);

const joinOf = (ids: readonly number[], more: Partial<Join> = {}): Join => ({
  parts: ids.map((soundId) => ({ soundId, gapSeconds: 0.01 })),
  overlap: 'crossfade',
  rateHz: null,
  channelCount: null,
  ...more,
});

async function withParts() {
  const { bijou, folder } = await freshBijou();
  const project = bijou.projects.add('Test');
  await bringIn(bijou, project, {
    'one.wav': await encode([noise(1_000, 1)], 8_000, 'wav', { bits: 16 }),
    'two.wav': await encode([noise(2_000, 2)], 8_000, 'wav', { bits: 24 }),
  });
  const ids = bijou.sounds.ofProject(project).map(({ id }) => id) as [number, number];
  const make = async (name: string, join: Join) => {
    const { id } = bijou.joins.create(project, name, join);
    await bijou.jobs.idle();
    return id;
  };
  return { bijou, folder, project, ids, make };
}

async function heard(bijou: Bijou, id: number): Promise<Float32Array> {
  const { sourceSha256, recipe } = bijou.sounds.byId(id);
  return (
    await bijou.listening.ask({ sha256: sourceSha256, recipe }, 'pcm', {
      start: 0,
      frames: 100_000,
    })
  ).samples;
}

test('a joined sound is one like any other, and its sheet says where its parts lie', async () => {
  const { bijou, project, ids, make } = await withParts();
  const id = await make('both', joinOf(ids));
  const sound = bijou.sounds.byId(id);
  expect(sound).toMatchObject({
    state: 'ready',
    error: null,
    facts: {
      frames: 3_080,
      sampleRateHz: 8_000,
      codec: 'float',
      markers: [{ name: 'one' }, { name: 'two' }],
    },
  });
  const parts = await Promise.all(ids.map((part) => heard(bijou, part)));
  expect(await heard(bijou, id)).toEqual(
    Float32Array.from([...parts[0]!, ...new Float32Array(80), ...parts[1]!]),
  );
  expect(bijou.joins.sheet(id).sounds).toMatchObject([
    { name: 'one', startFrame: 0, frames: 1_000, seconds: 0.125 },
    { name: 'two', startFrame: 1_080, frames: 2_000, startSeconds: 0.135 },
  ]);
  // Its own recipe moves what the sheet says.
  bijou.sounds.setRecipe(id, {
    version: 1,
    steps: [step('keep', { startFrame: 1_000, endFrame: 2_080 })],
  });
  expect(bijou.joins.sheet(id).sounds).toMatchObject([
    { name: 'two', startFrame: 80, frames: 1_000 },
  ]);
  bijou.packs.assign(bijou.sounds.byId(id), 'wav-master', {});
  bijou.packs.build(project);
  await bijou.jobs.idle();
  const output = bijou.packs.output(bijou.packs.lines(project)[0]!.outputs[0]!.id);
  const { channels } = await decode(
    new Uint8Array(await readFile(bijou.store.path(output.sha256))),
  );
  // The brief wants 48 kHz, six times the rate.
  expect(channels[0]!.length).toBe(6 * 1_080);
});

test('it follows when a part changes, also through another join, and what it was before is not kept', async () => {
  const { bijou, folder, project, ids, make } = await withParts();
  const inner = await make('inner', joinOf(ids));
  const outer = await make('outer', joinOf([inner, ids[0]]));
  const before = bijou.sounds.byId(outer).sourceSha256;
  bijou.packs.assign(bijou.sounds.byId(outer), 'web-page', {});
  bijou.sounds.setRecipe(ids[1], {
    version: 1,
    steps: [step('keep', { startFrame: 0, endFrame: 500 })],
  });
  // Until it has followed it is not built.
  expect(() => bijou.packs.build(project)).toThrow(/Nothing can be built/);
  await bijou.jobs.idle();
  expect(bijou.sounds.byId(inner).facts!.frames).toBe(1_580);
  expect(bijou.sounds.byId(outer)).toMatchObject({ state: 'ready', facts: { frames: 2_660 } });
  expect(await storedFiles(folder)).not.toContain(before);
  // Undone, it is what it was, byte for byte.
  bijou.edits.undoOf(ids[1]);
  await bijou.jobs.idle();
  expect(bijou.sounds.byId(outer).sourceSha256).toBe(before);
  expect(bijou.joins.sheet(outer).sounds.map(({ name }) => name)).toEqual(['inner', 'one']);
});

test('joins of nothing, of strangers, and of themselves are refused', async () => {
  const { bijou, project, ids, make } = await withParts();
  expect(() => bijou.joins.create(project, 'none', joinOf([]))).toThrow(
    'There is nothing to join.',
  );
  expect(() => bijou.joins.create(project, 'lost', joinOf([9_999]))).toThrow(/not in the project/);
  const elsewhere = bijou.projects.add('Other');
  expect(() => bijou.joins.create(elsewhere, 'foreign', joinOf(ids))).toThrow(/not in the project/);
  const inner = await make('inner', joinOf(ids));
  const outer = await make('outer', joinOf([inner]));
  for (const part of [inner, outer]) {
    expect(() => bijou.joins.setJoin(inner, joinOf([ids[0], part]))).toThrow(/part of itself/);
  }
  expect(() => bijou.joins.setJoin(ids[0], joinOf(ids))).toThrow(/not joined/);
  expect(() => bijou.joins.sheet(ids[0])).toThrow(/not joined/);
  expect(bijou.sounds.byId(inner).join!.parts).toHaveLength(2);
});

test('a part that was taken out stops building, with a word; brought back, all is well', async () => {
  const { bijou, project, ids, make } = await withParts();
  const id = await make('both', joinOf(ids));
  bijou.packs.assign(bijou.sounds.byId(id), 'web-page', {});
  bijou.edits.edit(project, [{ soundId: ids[0], removed: true }]);
  expect(bijou.sounds.byId(id)).toMatchObject({
    state: 'ready',
    error: { message: '“one” of the join is not in the project any more.' },
  });
  expect(bijou.packs.lines(project)[0]!.obstacle!.message).toMatch(/“one” of the join/);
  bijou.edits.undo(project);
  expect(bijou.sounds.byId(id).error).toBeNull();
  expect(bijou.packs.lines(project)[0]!.obstacle).toBeNull();
});

test('changing the parts is a change like any other; what cannot be joined says so and waits', async () => {
  const { bijou, ids, make } = await withParts();
  const id = await make('both', joinOf(ids));
  bijou.joins.setJoin(id, joinOf([ids[1], ids[0], ids[0]], { channelCount: 2, rateHz: 16_000 }));
  await bijou.jobs.idle();
  expect(bijou.sounds.byId(id).facts).toMatchObject({
    channels: 2,
    sampleRateHz: 16_000,
    frames: 8_320,
  });
  expect(bijou.edits.undoOf(id)).toBe('Change the parts of “both”');
  await bijou.jobs.idle();
  expect(bijou.sounds.byId(id).facts!.frames).toBe(3_080);
  // Normalising silence is only found out while it is joined.
  const silent = [
    step('blank', { startFrame: 0, endFrame: 1_000 }),
    step('normalise', { to: 'peak', target: -1 }),
  ];
  bijou.sounds.setRecipe(ids[0], { version: 1, steps: silent });
  await bijou.jobs.idle();
  expect(bijou.sounds.byId(id)).toMatchObject({ state: 'ready', error: { code: 'not-legal' } });
  expect(bijou.jobs.open(bijou.sounds.byId(id).projectId)).toEqual([]);
  bijou.edits.undoOf(ids[0]);
  await bijou.jobs.idle();
  expect(bijou.sounds.byId(id)).toMatchObject({ state: 'ready', error: null });
});

test('joining goes on after a restart', async () => {
  const { bijou, folder, ids, project } = await withParts();
  const { id } = bijou.joins.create(project, 'both', joinOf(ids));
  await bijou.close();
  const { bijou: again } = await freshBijou(folder);
  await again.jobs.idle();
  expect(again.sounds.byId(id)).toMatchObject({ state: 'ready', facts: { frames: 3_080 } });
});
