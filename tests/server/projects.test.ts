import { step } from '../core/files';
import { bringIn, tone } from './bringing';
import { cleanUp, freshBijou, storedFiles } from './folder';

afterAll(cleanUp);

/** Projects as a whole. */

async function withProject() {
  const { bijou, folder } = await freshBijou();
  const project = bijou.projects.add('Skerry');
  await bringIn(bijou, project, { 'a.wav': await tone(200), 'b.wav': await tone(300) });
  const ids = bijou.sounds.ofProject(project).map(({ id }) => id) as [number, number];
  bijou.sounds.setRecipe(ids[0], { version: 1, steps: [step('reverse')] });
  bijou.edits.edit(project, [{ soundId: ids[1], group: 'sea', labels: ['wet'], note: 'loud' }]);
  bijou.packs.send(project, { sounds: ids, briefs: ['wav-master'] }, { clipping: 'keep' });
  bijou.packs.build(project);
  await bijou.jobs.idle();
  const parts = ids.map((soundId) => ({ soundId, gapSeconds: 0.5 }));
  bijou.joins.create(project, 'both', {
    parts,
    overlap: 'mix',
    rateHz: null,
    channelCount: null,
  });
  await bijou.jobs.idle();
  return { bijou, folder, project, ids };
}

test('a copy has the same sounds, choices and files, and a life of its own', async () => {
  const { bijou, project, ids } = await withProject();
  const copy = await bijou.projects.copy(project);
  await bijou.jobs.idle();
  expect(copy.name).toBe('Skerry copy');
  const seen = (id: number) =>
    bijou.sounds.ofProject(id).map((sound) => ({
      name: sound.name,
      group: sound.group,
      labels: sound.labels,
      note: sound.note,
      recipe: sound.recipe,
      source: sound.sourceSha256,
      state: sound.state,
    }));
  expect(seen(copy.id)).toEqual(seen(project));
  expect(bijou.packs.cells(copy.id).map(({ state }) => state)).toEqual(['built', 'built']);
  expect(bijou.packs.lines(copy.id)[0]!.assignment.choices).toEqual({ clipping: 'keep' });
  // Its join is made of its own sounds.
  const own = new Set(bijou.sounds.ofProject(copy.id).map(({ id }) => id));
  const join = bijou.sounds.ofProject(copy.id).find((sound) => sound.join)!.join!;
  expect(join.parts.every(({ soundId }) => own.has(soundId))).toBe(true);
  // What is done to one is not done to the other.
  bijou.edits.edit(project, [{ soundId: ids[0], name: 'other' }]);
  expect(bijou.sounds.ofProject(copy.id)[0]!.name).toBe('a');
  const others = await Promise.all([1, 2].map(() => bijou.projects.copy(project)));
  expect(others.map(({ name }) => name)).toEqual(['Skerry copy 2', 'Skerry copy 3']);
});

test('a deleted project is in no list, comes back as it was, and is gone for good only when it is let go', async () => {
  const { bijou, folder, project } = await withProject();
  const other = bijou.projects.add('Reef');
  await bringIn(bijou, other, { 'shared.wav': await tone(200) });
  const before = bijou.projectState(project);
  bijou.projects.remove(project);
  expect(bijou.projects.all().map(({ name }) => name)).toEqual(['Reef']);
  expect(() => bijou.projectState(project)).toThrow(/no such project/);
  expect(bijou.projects.removed()).toMatchObject([{ id: project, name: 'Skerry' }]);
  await expect(bijou.projects.letGo(other)).rejects.toThrow(/not there/);
  bijou.projects.bringBack(project);
  expect(bijou.projectState(project)).toEqual(before);

  bijou.projects.remove(project);
  await bijou.projects.letGo(project);
  await bijou.jobs.idle();
  expect(bijou.projects.removed()).toEqual([]);
  expect(() => bijou.projects.bringBack(project)).toThrow(/not there/);
  // What another project has stays.
  const [kept] = bijou.sounds.ofProject(other);
  const left = new Set((await storedFiles(folder)).map((name) => name.slice(0, 64)));
  expect([...left]).toEqual([kept!.sourceSha256]);
});

test('a project has another name at once', async () => {
  const { bijou, project } = await withProject();
  bijou.projects.rename(project, 'Marrow');
  expect(bijou.projectState(project).project.name).toBe('Marrow');
  expect(() => bijou.projects.rename(999, 'x')).toThrow(/no such project/);
});
