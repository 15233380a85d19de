import { join } from 'node:path';
import { openTables } from '@/server/db';
import { bringIn, lateTone, placed, tone } from './bringing';
import { cleanUp, freshBijou, storedBytes, storedFiles } from './folder';

afterAll(cleanUp);

async function withSounds(count = 3) {
  const { bijou, folder } = await freshBijou();
  const project = bijou.projects.add('Test');
  const files: Record<string, Uint8Array> = {};
  for (let n = 0; n < count; n++) files[`s${n}.wav`] = await tone(100 + n, 8_000);
  await bringIn(bijou, project, files);
  const ids = bijou.sounds.ofProject(project).map(({ id }) => id);
  return { bijou, folder, project, ids };
}

test('many are changed in one step that is undone and done again, also after a restart', async () => {
  const { bijou, folder, project, ids } = await withSounds();
  const edits = ids.map((soundId, n) => ({ soundId, name: `wave ${n}`, group: ' sea / waves ' }));
  expect(bijou.edits.edit(project, edits).changed).toBe(3);
  expect(placed(bijou, project)[0]).toBe('sea/waves/wave 0');
  expect(bijou.edits.history(project)).toMatchObject({
    undo: { title: 'Rename 3 sounds' },
    redo: null,
  });
  await bijou.close();
  const { bijou: again } = await freshBijou(folder);
  expect(again.edits.undo(project)).toBe('Rename 3 sounds');
  expect(placed(again, project)).toEqual(['s0', 's1', 's2']);
  expect(again.edits.redo(project)).toBe('Rename 3 sounds');
  expect(placed(again, project)[2]).toBe('sea/waves/wave 2');
  expect(again.edits.redo(project)).toBeNull();
});

test('a new change takes the place of what was undone', async () => {
  const { bijou, project, ids } = await withSounds(1);
  const [soundId] = ids as [number];
  bijou.edits.edit(project, [{ soundId, note: 'first' }]);
  bijou.edits.edit(project, [{ soundId, labels: ['wet'] }]);
  bijou.edits.undo(project);
  bijou.edits.edit(project, [{ soundId, note: 'second' }]);
  expect(bijou.edits.history(project)).toMatchObject({
    undo: { title: 'Note on “s0”' },
    redo: null,
  });
  bijou.edits.undo(project);
  expect(bijou.sounds.byId(soundId)).toMatchObject({ note: 'first', labels: [] });
  bijou.edits.undo(project);
  expect(bijou.edits.undo(project)).toBeNull();
  expect(bijou.sounds.byId(soundId).note).toBe('');
});

test('what changes nothing is no step; sounds of other projects are not touched', async () => {
  const { bijou, project, ids } = await withSounds(1);
  expect(bijou.edits.edit(project, [{ soundId: ids[0]!, name: 's0' }]).changed).toBe(0);
  expect(bijou.edits.history(project).undo).toBeNull();
  const other = bijou.projects.add('Other');
  expect(() => bijou.edits.edit(other, [{ soundId: ids[0]!, name: 'stolen' }])).toThrow(
    /not there/,
  );
});

test('news are what changed since, and what left the list', async () => {
  const { bijou, project, ids } = await withSounds();
  const { revision } = bijou.projectState(project);
  expect(bijou.projectNews(project, { revision })).toMatchObject({ changed: [], gone: [] });
  bijou.edits.edit(project, [{ soundId: ids[1]!, note: 'x' }]);
  bijou.edits.edit(project, [{ soundId: ids[2]!, removed: true }]);
  const news = bijou.projectNews(project, { revision });
  expect(news.changed.map(({ id }) => id)).toEqual([ids[1]]);
  expect(news.gone).toEqual([ids[2]]);
  expect(news.revision).toBeGreaterThan(revision);
});

test('worries are cured on many, set aside with a note, taken up again, and all of it undone', async () => {
  const { bijou } = await freshBijou();
  const project = bijou.projects.add('Test');
  await bringIn(bijou, project, {
    'a.wav': await lateTone(1_000),
    'b.wav': await lateTone(1_100),
    'c.wav': await tone(1_200),
  });
  const ids = bijou.sounds.ofProject(project).map(({ id }) => id);
  const worry = (id: number) =>
    bijou.sounds.byId(id).worries.find(({ code }) => code === 'silent-head');
  const states = () => ids.map((id) => worry(id)?.state);
  expect(states()).toEqual(['open', 'open', undefined]);

  expect(bijou.worries.cure(project, 'silent-head', ids)).toMatchObject({
    changed: 2,
    failed: [],
  });
  expect(states()).toEqual(['cured', 'cured', undefined]);
  expect(bijou.sounds.byId(ids[0]!).recipe.steps).toEqual([
    // A sine begins with a silent frame of its own.
    { kind: 'keep', on: true, params: { startFrame: 4_001, endFrame: 12_000 } },
  ]);
  expect(bijou.sounds.byId(ids[2]!).recipe.steps).toEqual([]);
  expect(bijou.edits.undo(project)).toBe('Cure 2 sounds');
  expect(states()).toEqual(['open', 'open', undefined]);

  bijou.worries.setAside(project, 'silent-head', [ids[1]!], 'the game waits for it');
  expect(worry(ids[1]!)).toMatchObject({ state: 'set-aside', note: 'the game waits for it' });
  bijou.worries.takeUp(project, 'silent-head', [ids[1]!]);
  expect(worry(ids[1]!)!.state).toBe('open');
  bijou.edits.undo(project);
  expect(worry(ids[1]!)!.state).toBe('set-aside');

  // Other bytes are another worry.
  await bringIn(bijou, project, { 'b.wav': await lateTone(1_300) });
  const [arrival] = bijou.intakes.arrivals(project, 'differs');
  await bijou.intakes.decide(project, [arrival!.id], 'replace');
  expect(worry(ids[1]!)!.state).toBe('open');
});

test('a worry without a cure says so; a cure that does not fit leaves its sound as it is', async () => {
  const { bijou } = await freshBijou();
  const project = bijou.projects.add('Test');
  await bringIn(bijou, project, { 'cut.wav': (await tone(900)).subarray(0, 3_000) });
  const [sound] = bijou.sounds.ofProject(project);
  expect(sound!.worries.map(({ code }) => code)).toContain('truncated');
  expect(() => bijou.worries.cure(project, 'truncated', [sound!.id])).toThrow(/no step that cures/);

  await bringIn(bijou, project, { 'late.wav': await lateTone(1_000) });
  const late = bijou.sounds.ofProject(project).find(({ name }) => name === 'late')!;
  bijou.sounds.setRecipe(late.id, {
    version: 1,
    steps: [
      { kind: 'resample', on: true, params: { rateHz: 4_000 } },
      { kind: 'keep', on: true, params: { startFrame: 0, endFrame: 6_000 } },
    ],
  });
  const { changed, failed } = bijou.worries.cure(project, 'silent-head', [late.id]);
  expect(changed).toBe(0);
  expect(failed).toMatchObject([{ name: 'late', message: expect.stringContaining('end') }]);
  expect(bijou.sounds.byId(late.id).recipe.steps).toHaveLength(2);
});

test('a clean-up says what it frees, frees it, and begins the history anew', async () => {
  const { bijou, folder, project, ids } = await withSounds();
  const none = {
    ...{ removedSounds: 0, replacedSources: 0, earlierBuilds: 0, removedPacks: 0, bytes: 0 },
  };
  expect(await bijou.cleaning.waste(project)).toEqual(none);
  const removed = ids[1]!;
  bijou.packs.assign(bijou.sounds.byId(removed), 'web-page', {});
  bijou.packs.build(project);
  await bijou.jobs.idle();
  bijou.edits.edit(project, [{ soundId: removed, removed: true }]);
  await bringIn(bijou, project, { 's0.wav': await tone(500, 4_000) });
  const [arrival] = bijou.intakes.arrivals(project, 'differs');
  await bijou.intakes.decide(project, [arrival!.id], 'replace');
  const before = await storedBytes(folder);
  const waste = await bijou.cleaning.waste(project);
  expect(waste).toMatchObject({ removedSounds: 1, replacedSources: 1 });
  // Asking changes nothing.
  expect(bijou.sounds.byId(removed).removedAt).not.toBeNull();
  expect(await bijou.cleaning.waste(project)).toEqual(waste);

  expect(await bijou.cleaning.cleanUp(project)).toEqual(waste);
  // With the pictures, and what was built of them.
  expect(before - (await storedBytes(folder))).toBe(waste.bytes);
  expect(bijou.edits.history(project)).toEqual({ undo: null, redo: null });
  expect(await bijou.cleaning.waste(project)).toEqual(none);
  const stored = await storedFiles(folder);
  for (const { sourceSha256 } of bijou.sounds.ofProject(project)) {
    expect(stored).toContain(sourceSha256);
    const heard = await bijou.listening.ask({ sha256: sourceSha256 }, 'pcm', {
      start: 0,
      frames: 100,
    });
    expect(heard.samples.length).toBe(100);
  }
  expect(() => bijou.sounds.byId(removed)).toThrow(/not there/);
});

test('bytes that another project still has, or could bring back, stay', async () => {
  const { bijou, folder, project, ids } = await withSounds(1);
  const { sourceSha256 } = bijou.sounds.byId(ids[0]!);
  const other = bijou.projects.add('Other');
  await bringIn(bijou, other, { 'mine.wav': await tone(100, 8_000) });
  await bringIn(bijou, other, { 'mine.wav': await tone(600) });
  const [arrival] = bijou.intakes.arrivals(other, 'differs');
  await bijou.intakes.decide(other, [arrival!.id], 'replace');
  bijou.edits.edit(project, [{ soundId: ids[0]!, removed: true }]);
  await bijou.cleaning.cleanUp(project);
  expect(await storedFiles(folder)).toContain(sourceSha256);
  bijou.edits.undo(other);
  expect(bijou.sounds.ofProject(other)[0]!.sourceSha256).toBe(sourceSha256);
});

test('what hangs on a sound is news of its cells, and only of those that changed', async () => {
  const { bijou, project, ids } = await withSounds();
  const [first, second] = ids.map((id) => bijou.sounds.byId(id));
  bijou.packs.assign(first!, 'web-page', {});
  bijou.packs.assign(second!, 'wav-master', {});
  const state = bijou.projectState(project);
  expect(state.cells).toMatchObject([
    { briefId: 'web-page', state: 'convert', finished: 0, missing: 2 },
    { briefId: 'wav-master', state: 'convert', finished: 0, missing: 1 },
  ]);
  bijou.packs.build(project, [state.cells[1]!.id]);
  await bijou.jobs.idle();
  const built = bijou.projectNews(project, { revision: state.revision });
  expect(built.changed).toEqual([]);
  expect(built.cells).toMatchObject([
    { briefId: 'wav-master', state: 'built', finished: 1, missing: 0 },
  ]);
  bijou.packs.unassign(second!, 'wav-master');
  const parted = bijou.projectNews(project, { revision: built.revision });
  expect(parted.changed).toEqual([]);
  expect(parted.cells).toEqual([]);
  expect(parted.goneCells).toEqual([state.cells[1]!.id]);
});

test('a sound that did not change is the same object; after a change that was taken back none is stale', async () => {
  const { folder, bijou, ids } = await withSounds(1);
  const id = ids[0]!;
  expect(bijou.sounds.byId(id)).toBe(bijou.sounds.byId(id));
  await bijou.close();
  const db = openTables(join(folder, 'bijou.db'));
  const before = db.sounds.byId(id)!;
  expect(() =>
    db.transaction(() => {
      db.sounds.setValues(id, { note: 'taken back' });
      expect(db.sounds.byId(id)!.note).toBe('taken back');
      throw new Error('no');
    }),
  ).toThrow('no');
  expect(db.sounds.byId(id)).toEqual(before);
  // The number of the change that was taken back is given again.
  db.sounds.setValues(id, { note: 'kept' });
  expect(db.sounds.byId(id)!.note).toBe('kept');
  db.close();
});

describe('two windows', () => {
  const steps = (kind: string) => ({
    version: 1 as const,
    steps: [{ kind, on: true, params: {} }],
  });

  test('a change that was made on what is not so any more is refused; others are not', async () => {
    const { bijou, project, ids } = await withSounds();
    const [one, two] = ids as [number, number];
    const seen = bijou.projectState(project).revision;
    bijou.sounds.setRecipe(one, steps('reverse'), seen);
    const late = expect.objectContaining({ code: 'changed-meanwhile' });
    expect(() => bijou.sounds.setRecipe(one, steps('invert'), seen)).toThrow(late as Error);
    expect(() => bijou.edits.edit(project, [{ soundId: one, name: 'x' }], seen)).toThrow(
      /meanwhile/,
    );
    // One of several is enough, and then none is changed.
    const both = [one, two].map((soundId) => ({ soundId, labels: ['sea'] }));
    expect(() => bijou.edits.edit(project, both, seen)).toThrow(/“s0” was changed/);
    expect(bijou.sounds.byId(two).labels).toEqual([]);
    // The other sound is as it was; what was built of a sound, or read of it, is no change of it.
    bijou.packs.assign(bijou.sounds.byId(two), 'wav-master', {});
    bijou.packs.build(project);
    await bijou.jobs.idle();
    bijou.sounds.setRecipe(two, steps('reverse'), seen);
    const fresh = bijou.sounds.byId(one).revision;
    expect(bijou.sounds.setRecipe(one, steps('invert'), fresh).recipe.steps[0]!.kind).toBe(
      'invert',
    );
  });

  test('each change says on what the next one can be made', async () => {
    const { bijou, project, ids } = await withSounds(1);
    let { revision } = bijou.projectState(project);
    for (const name of ['a', 'b', 'c']) {
      ({ revision } = bijou.edits.edit(project, [{ soundId: ids[0]!, name }], revision));
    }
    expect(bijou.sounds.byId(ids[0]!).name).toBe('c');
  });

  test('undo and redo name what they mean', async () => {
    const { bijou, project, ids } = await withSounds();
    const [one, two] = ids as [number, number];
    const rename = (soundId: number, name: string) =>
      bijou.edits.edit(project, [{ soundId, name }]).changeId!;
    const first = rename(one, 'first');
    const other = rename(two, 'other');
    // A message about the first change takes back the first change.
    expect(bijou.edits.undo(project, first)).toBe('Rename “s0”');
    expect(bijou.sounds.byId(two).name).toBe('other');
    expect(() => bijou.edits.undo(project, first)).toThrow(/cannot be undone/);
    expect(bijou.edits.undo(project, other)).not.toBeNull();
    expect(bijou.edits.redo(project, first)).not.toBeNull();
    const on = rename(one, 'on top');
    expect(() => bijou.edits.undo(project, first)).toThrow(/newer changes stand on it/);
    expect(() => bijou.edits.undoOf(one, first)).toThrow(/newer changes stand on it/);
    expect(bijou.edits.undoOf(one, on)).not.toBeNull();
    expect(bijou.edits.redoOf(one, on)).not.toBeNull();
    expect(bijou.sounds.byId(one).name).toBe('on top');
    const elsewhere = bijou.projects.add('Elsewhere');
    expect(() => bijou.edits.undo(elsewhere, on)).toThrow(/cannot be undone/);
  });

  test('a hundred files that are replaced at once are one step', async () => {
    const { bijou } = await freshBijou();
    const project = bijou.projects.add('Many');
    const names = Array.from({ length: 12 }, (_, n) => `take ${n}.wav`);
    const all = async (hz: number) =>
      Object.fromEntries(
        await Promise.all(names.map(async (name, n) => [name, await tone(hz + n)] as const)),
      );
    await bringIn(bijou, project, await all(100));
    await bringIn(bijou, project, await all(500));
    const before = bijou.sounds.ofProject(project).map(({ sourceSha256 }) => sourceSha256);
    const differing = bijou.intakes.arrivals(project, 'differs').map(({ id }) => id);
    await bijou.intakes.decide(project, differing, 'replace');
    expect(bijou.edits.undo(project)).toBe('Replace the source of 12 sounds');
    expect(bijou.edits.history(project).undo).toBeNull();
    expect(bijou.sounds.ofProject(project).map(({ sourceSha256 }) => sourceSha256)).toEqual(before);
  });
});
