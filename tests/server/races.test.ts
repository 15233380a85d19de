import type { Recipe } from '@/core/recipe/types';
import type { Bijou } from '@/server/bijou';
import { RANK } from '@/server/jobs/ranks';
import { parseCandidate } from '@/core/compare/candidates/text';
import { encode, step } from '../core/files';
import { noise, sine } from '../core/signals';
import { bringIn, tone } from './bringing';
import { cleanUp, freshBijou } from './folder';

afterAll(cleanUp);

/** Results that come late: what they were worked out for may be otherwise by then. */

const recipe = (...steps: Recipe['steps']): Recipe => ({ version: 1, steps });

/** Calls `act` once, as soon as a job of a kind is at work. */
function whileRunning(bijou: Bijou, project: number, kind: string, act: () => void): () => boolean {
  let isDone = false;
  const unhear = bijou.listen(project, () => {
    if (isDone || !bijou.jobs.open(project).some((job) => job.kind === kind && isRunning(job))) {
      return;
    }
    isDone = true;
    queueMicrotask(act);
  });
  return () => {
    unhear();
    return isDone;
  };
}
const isRunning = ({ state }: { state: string }) => state === 'running';

test('a step that failed and was taken out meanwhile is blamed no more', async () => {
  const { bijou } = await freshBijou();
  const project = bijou.projects.add('Silence');
  // Silence cannot be brought to a loudness; finding that out takes reading it.
  const silent = new Float32Array(44_100 * 90);
  await bringIn(bijou, project, {
    'silent.wav': await encode([silent], 44_100, 'wav', { bits: 16 }, 16),
  });
  const [sound] = bijou.sounds.ofProject(project);
  const id = sound!.id;
  bijou.packs.assign(sound!, 'wav-master', {});
  const wasRunning = whileRunning(bijou, project, 'outcome', () =>
    bijou.sounds.setRecipe(id, recipe()),
  );
  bijou.sounds.setRecipe(id, recipe(step('normalise', { to: 'lufs', target: -16 })));
  await bijou.jobs.idle();
  expect(wasRunning()).toBe(true);
  expect(bijou.sounds.byId(id).outcome?.error ?? null).toBeNull();
  expect(bijou.packs.lines(project)[0]!.obstacle).toBeNull();
  bijou.packs.build(project);
  await bijou.jobs.idle();
  expect(bijou.packs.cells(project)[0]!.state).toBe('built');
});

test('what is found out about a recipe that was changed meanwhile is found out anew', async () => {
  const { bijou } = await freshBijou();
  const project = bijou.projects.add('Loud');
  const samples = sine(44_100, 500, 44_100 * 60, 0.3);
  await bringIn(bijou, project, { 'a.wav': await encode([samples], 44_100, 'wav', { bits: 16 }) });
  const { id } = bijou.sounds.ofProject(project)[0]!;
  const wasRunning = whileRunning(bijou, project, 'outcome', () =>
    bijou.sounds.setRecipe(id, recipe(step('gain', { gainDb: 18 }))),
  );
  bijou.sounds.setRecipe(id, recipe(step('gain', { gainDb: 12 })));
  await bijou.jobs.idle();
  expect(wasRunning()).toBe(true);
  expect(bijou.sounds.byId(id).outcome!.peakDbfs).toBeCloseTo(20 * Math.log10(0.3) + 18, 1);
});

test('a join that comes late is not written over one of other parts, and blames nothing', async () => {
  const { bijou } = await freshBijou();
  const project = bijou.projects.add('Joined');
  const long = (seed: number) =>
    encode([noise(44_100 * 40, seed, 0.2)], 44_100, 'wav', { bits: 16 });
  await bringIn(bijou, project, { 'one.wav': await long(1), 'two.wav': await long(2) });
  const ids = bijou.sounds.ofProject(project).map((sound) => sound.id);
  const wasRunning = whileRunning(bijou, project, 'join', () =>
    bijou.sounds.setRecipe(ids[0]!, recipe(step('keep', { startFrame: 0, endFrame: 44_100 }))),
  );
  const { id } = bijou.joins.create(project, 'joined', {
    parts: ids.map((soundId) => ({ soundId, gapSeconds: 0 })),
    overlap: 'mix',
    rateHz: null,
    channelCount: null,
  });
  await bijou.jobs.idle();
  expect(wasRunning()).toBe(true);
  const joined = bijou.sounds.byId(id);
  expect(joined).toMatchObject({ state: 'ready', error: null });
  expect(joined.facts!.frames).toBe(44_100 * 41);
});

test('a rehearsal that began before a second build is not its answer', async () => {
  const { bijou } = await freshBijou();
  const project = bijou.projects.add('Host');
  const samples = noise(44_100, 5, 0.2);
  await bringIn(bijou, project, { 'a.wav': await encode([samples], 44_100, 'wav', { bits: 16 }) });
  const { id } = bijou.sounds.ofProject(project)[0]!;
  bijou.packs.send(project, { sounds: [id], briefs: ['ar-filter'] });
  const wasRunning = whileRunning(bijou, project, 'rehearse', () => {
    bijou.sounds.setRecipe(id, recipe(step('reverse', {})));
    bijou.packs.build(project);
  });
  bijou.packs.build(project);
  await bijou.jobs.idle();
  expect(wasRunning()).toBe(true);
  const [cell] = bijou.packs.cells(project);
  expect(cell).toMatchObject({ state: 'built', rehearsed: '' });
  const { said, state } = bijou.projectState(project).rehearsals[0]!;
  expect(state).toBe('done');
  expect(said!.accepted).toBe(true);
  // It was said of the second build: nothing is due any more, and nothing is said twice.
  const { sha256 } = bijou.packs.lines(project)[0]!.outputs[0]!;
  expect(sha256).not.toBeNull();
});

test('what is cancelled or taken away while it is made leaves nothing behind', async () => {
  const { bijou, folder } = await freshBijou();
  const project = bijou.projects.add('Away');
  const samples = noise(44_100 * 30, 9, 0.2);
  await bringIn(bijou, project, { 'a.wav': await encode([samples], 44_100, 'wav', { bits: 16 }) });
  const [sound] = bijou.sounds.ofProject(project);
  bijou.packs.assign(sound!, 'web-single', {});
  const wasRunning = whileRunning(bijou, project, 'encode', () =>
    bijou.packs.unassign(bijou.sounds.byId(sound!.id), 'web-single'),
  );
  bijou.packs.build(project);
  await bijou.jobs.idle();
  expect(wasRunning()).toBe(true);
  const { storedFiles } = await import('./folder');
  const names = (await storedFiles(folder)).filter((name) => !name.startsWith(sound!.sourceSha256));
  expect(names).toEqual([]);
});

test('several fields of a sound are changed together, or none is', async () => {
  const { bijou } = await freshBijou();
  const project = bijou.projects.add('Whole');
  await bringIn(bijou, project, { 'a.wav': await tone(200) });
  const { id } = bijou.sounds.ofProject(project)[0]!;
  const { revision } = bijou.projectState(project);
  const reversed = recipe(step('reverse', {}));
  const changed = bijou.sounds.change(id, { name: 'bell', recipe: reversed }, revision);
  expect(changed).toMatchObject({ name: 'bell', recipe: reversed });
  expect(bijou.edits.history(project).undo!.title).toMatch(/“a”/);
  bijou.edits.undo(project);
  expect(bijou.sounds.byId(id)).toMatchObject({ name: 'a', recipe: { steps: [] } });
  bijou.edits.redo(project);
  // On a state that is not so any more, nothing of it is done.
  const more = { name: 'gull', recipe: recipe(), removed: true };
  expect(() => bijou.sounds.change(id, more, revision)).toThrow(/meanwhile/);
  expect(() =>
    bijou.sounds.change(id, {
      name: 'gull',
      recipe: recipe(step('keep', { startFrame: 9, endFrame: 3 })),
    }),
  ).toThrow();
  expect(bijou.sounds.byId(id)).toMatchObject({ name: 'bell', recipe: reversed, removedAt: null });
});

test('what somebody asks for begins while a comparison of many trials goes on', async () => {
  const { bijou } = await freshBijou();
  const project = bijou.projects.add('Asked');
  const files: Record<string, Uint8Array> = {};
  for (let n = 0; n < 6; n++) {
    files[`s${n}.wav`] = await encode([noise(44_100 * 8, n + 1, 0.2)], 44_100, 'wav', { bits: 16 });
  }
  await bringIn(bijou, project, files);
  const sounds = bijou.sounds.ofProject(project);
  bijou.packs.assign(sounds[0]!, 'wav-master', {});
  const candidates = ['mp3@64', 'mp3@128', 'ogg/vorbis@q4', 'ogg/vorbis@q8'].map(parseCandidate);
  const ids = sounds.map((sound) => sound.id);
  bijou.trying.begin(project, ids, candidates, 1);
  const asked = (await bijou.packing.make(project, ['wav-master'])).id;
  const open = () => bijou.jobs.open(project).filter(({ kind }) => kind !== 'outcome');
  const pressing = () => open().filter(({ rank }) => rank <= RANK.usual);
  expect(pressing().every(isRunning)).toBe(true);
  while ((await bijou.packing.details(asked, null)).state !== 'done') {
    expect(open().length).toBeGreaterThan(0);
    await new Promise((others) => setTimeout(others, 20));
  }
  // The comparison is not over yet: the pack has not waited for it.
  expect(open().some(({ rank }) => rank > RANK.usual)).toBe(true);
  await bijou.jobs.cancelAll(project);
  await bijou.jobs.idle();
});
