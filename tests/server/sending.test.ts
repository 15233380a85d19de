import { step } from '../core/files';
import { bringIn, tone } from './bringing';
import { cleanUp, freshBijou, storedBytes } from './folder';

afterAll(cleanUp);

/** Where sounds are sent, and what is chosen for them there: changes like any other. */

async function withSounds(count: number) {
  const { bijou, folder } = await freshBijou();
  const project = bijou.projects.add('Sending');
  for (let n = 0; n < count; n++) {
    await bringIn(bijou, project, { [`s${n}.wav`]: await tone(200 + n, 2_000) });
  }
  const ids = bijou.sounds.ofProject(project).map(({ id }) => id);
  const goesTo = () =>
    bijou.packs.lines(project).map(({ assignment: { soundId, briefId, choices } }) => ({
      sound: ids.indexOf(soundId),
      briefId,
      ...choices,
    }));
  const build = async () => {
    bijou.packs.build(project);
    await bijou.jobs.idle();
  };
  const titles = () => bijou.edits.history(project);
  return { bijou, folder, project, ids, goesTo, build, titles };
}

test('many sounds go to several destinations in one step, which is undone and done again', async () => {
  const { bijou, project, ids, goesTo, titles } = await withSounds(3);
  const briefs = ['web-page', 'wav-master'];
  const made = bijou.packs.send(project, { sounds: ids, briefs });
  expect(made.changed).toBe(3);
  expect(titles().undo?.title).toMatch(/^Send 3 sounds to .+ and .+/);
  const all = goesTo();
  expect(all).toHaveLength(6);
  bijou.packs.send(project, { sounds: ids.slice(1), briefs: ['wav-master'] }, { clipping: 'keep' });
  expect(titles().undo?.title).toMatch(/^Choose for 2 sounds at /);
  bijou.edits.undo(project);
  expect(goesTo()).toEqual(all);
  bijou.edits.undo(project);
  expect(goesTo()).toEqual([]);
  bijou.edits.redo(project);
  bijou.edits.redo(project);
  expect(goesTo().filter(({ clipping }) => clipping)).toHaveLength(2);
  // Of one sound alone, too.
  expect(bijou.edits.nextOf(ids[0]!).undo?.title).toMatch(/^Send 3 sounds/);
  bijou.edits.undoOf(ids[0]!);
  expect(goesTo().map(({ sound }) => sound)).not.toContain(0);
});

test('choices are joined to those that were made, and what is the same is no step', async () => {
  const { bijou, project, ids, goesTo, titles } = await withSounds(1);
  const to = { sounds: ids, briefs: ['ar-filter'] };
  bijou.packs.send(project, to, { mono: 'left' });
  bijou.packs.send(project, to, { clipping: 'limit' });
  expect(goesTo()).toEqual([{ sound: 0, briefId: 'ar-filter', mono: 'left', clipping: 'limit' }]);
  const before = titles().undo;
  expect(bijou.packs.send(project, to, { mono: 'left' })).toMatchObject({ changed: 0 });
  bijou.packs.send(project, to);
  expect(titles().undo).toEqual(before);
  expect(() => bijou.packs.send(project, { ...to, briefs: ['nowhere'] })).toThrow(/no brief/);
  expect(() => bijou.packs.send(project, { ...to, sounds: [ids[0]!, 999] })).toThrow(/not there/);
});

test('what was built comes back with a sound that is sent again, until a clean-up', async () => {
  const { bijou, folder, project, ids, goesTo, build } = await withSounds(2);
  bijou.packs.send(project, { sounds: ids, briefs: ['wav-master'] });
  await build();
  const [first] = bijou.packs.lines(project)[0]!.outputs;
  bijou.packs.release(project, { sounds: [ids[0]!], briefs: ['wav-master'] });
  expect(goesTo().map(({ sound }) => sound)).toEqual([1]);
  expect(bijou.packs.cells(project)).toHaveLength(1);
  bijou.edits.undo(project);
  const [again] = bijou.packs.lines(project)[0]!.outputs;
  expect(again).toEqual(first);
  expect(bijou.packs.cells(project).map(({ state }) => state)).toEqual(['built', 'built']);
  bijou.edits.redo(project);
  const before = await storedBytes(folder);
  const waste = await bijou.cleaning.waste(project);
  expect(waste.bytes).toBeGreaterThan(0);
  await bijou.cleaning.cleanUp(project);
  expect(await storedBytes(folder)).toBe(before - waste.bytes);
  expect(bijou.packs.cells(project).map(({ state }) => state)).toEqual(['built']);
});

test('what is being built for a sound that is sent no more is not built', async () => {
  const { bijou, project, ids } = await withSounds(1);
  bijou.sounds.setRecipe(ids[0]!, { version: 1, steps: [step('reverse')] });
  await bijou.jobs.idle();
  bijou.packs.send(project, { sounds: ids, briefs: ['web-page'] });
  bijou.packs.build(project);
  bijou.packs.release(project, { sounds: ids, briefs: ['web-page'] });
  await bijou.jobs.idle();
  bijou.edits.undo(project);
  expect(bijou.packs.cells(project)).toMatchObject([{ state: 'convert', finished: 0 }]);
  expect(bijou.packs.lines(project)[0]!.outputs).toEqual([]);
});

test('a sound that is renamed after it was built lies in the pack under its new name', async () => {
  const { bijou, project, ids, build } = await withSounds(1);
  bijou.packs.send(project, { sounds: ids, briefs: ['wav-master'] });
  await build();
  bijou.edits.edit(project, [{ soundId: ids[0]!, name: 'lamp room' }]);
  const [line] = bijou.packs.lines(project);
  expect(line!.outputs).toMatchObject([{ name: 'lamp room.wav', upToDate: true, state: 'done' }]);
  expect(bijou.packs.output(line!.outputs[0]!.id).name).toBe('lamp room.wav');
});
