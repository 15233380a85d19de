import { join } from 'node:path';
import Database from 'better-sqlite3';
import type { Choices } from '@/core/brief/choices';
import { briefTextOf } from '@/core/brief/edit';
import { BijouError } from '@/core/errors';
import { openForReading } from '@/server/readOnly';
import { partFiles } from '@/server/services/partFiles';
import { placedFiles } from '@/server/services/storedParts';
import { readPack } from '@/server/work/packSource';
import type { Bijou } from '@/server/bijou';
import type { Recipe } from '@/core/recipe/types';
import { encode, step } from '../core/files';
import { noise } from '../core/signals';
import { bringIn, tone } from './bringing';
import { cleanUp, freshBijou } from './folder';

afterAll(cleanUp);

/** A generator of numbers from 0 up to below `below`: the same seed gives the same numbers (mulberry32). */
function numbers(seed: number) {
  let state = seed;
  return (below: number) => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return Math.floor((((t ^ (t >>> 14)) >>> 0) / 2 ** 32) * below);
  };
}

/** Rows, and names, as they are stored; and the same worked out anew by somebody who looks at no row. */
function held(bijou: Bijou, folder: string, project: number) {
  const stored = bijou.packs.cells(project).map(({ revision, ...cell }) => {
    expect(revision).toBeGreaterThan(0);
    return cell;
  });
  const paths = new Map(
    [...bijou.packs.needs(project)].map(({ assignment, paths, obstacle }) => [
      assignment.id,
      [[...paths], obstacle?.message],
    ]),
  );
  const reader = openForReading(folder);
  try {
    const anew = reader.cells.cells(project);
    const named = new Map(
      reader.cells
        .needs(project)
        .map(({ assignment, paths, obstacle }) => [assignment.id, [[...paths], obstacle?.message]]),
    );
    // What packs are made of, likewise.
    const briefs = new Set(anew.map(({ briefId }) => briefId));
    const { inputs, isSettled } = readPack(bijou.packing.sourceOf(project, [...briefs]));
    expect(isSettled).toBe(true);
    for (const { brief, files } of inputs) {
      const cells = [...reader.cells.made(project, new Set([brief.id]))];
      const filesAnew = cells.flatMap((cell) =>
        partFiles(reader.db, cell).map((file) => ({ cellId: cell.assignment.id, ...file })),
      );
      expect(files).toEqual(filesAnew);
      expect(placedFiles(reader.db, project, brief)).toEqual(
        filesAnew.map(({ soundId, name, group, seconds, fileId, paths, slots }) => ({
          ...{ soundId, name, group, seconds, fileId, paths, slots },
        })),
      );
    }
    return { stored, anew, paths, named };
  } finally {
    reader.close();
  }
}

/** A project with sounds, and briefs of its own that name files in different ways. */
async function withProject() {
  const { bijou, folder } = await freshBijou();
  const project = bijou.projects.add('Rows');
  const files: Record<string, Uint8Array> = {};
  for (let n = 0; n < 8; n++) files[`s${n}.wav`] = await tone(200 + 20 * n, 400 + n);
  files['wide.wav'] = await encode([noise(900, 1, 0.2), noise(900, 2, 0.2)], 44_100, 'wav', {
    bits: 24,
  });
  await bringIn(bijou, project, files);
  const ids = bijou.sounds.ofProject(project).map(({ id }) => id);
  const copied = bijou.ownBriefs.copy(project, 'game-mod');
  const edit = (change: object) =>
    bijou.ownBriefs.edit(
      project,
      copied.id,
      JSON.stringify({ ...briefTextOf(copied), title: copied.title, ...change }),
    );
  edit({ names: { pattern: '{name}', meeting: 'refuse' } });
  return { bijou, folder, project, ids, own: copied.id, edit };
}

/** One random change of a project. */
function anyAct(
  { bijou, project, ids, own, edit }: Awaited<ReturnType<typeof withProject>>,
  below: (most: number) => number,
): () => unknown {
  const one = <T>(of: readonly T[]) => of[below(of.length)]!;
  const briefs = ['web-page', 'wav-master', 'engine-effects', own];
  const names = ['bell', 'Bell', 'gull', 'bell-2', 'a', 'b', 'c', 'surf', 'surf-3'];
  const recipes: Recipe['steps'][] = [
    [],
    [step('gain', { gainDb: -3 - below(3) })],
    [step('reverse', {})],
    [step('keep', { startFrame: 0, endFrame: 100 + below(2_000) })],
  ];
  const choices: Choices[] = [
    {},
    { prefix: one(['', 'x_', 'y_']) },
    { name: one(['{name}', 'n{number:2}', 'bell', '{group} {name}']) },
    { mono: 'left' },
    { clipping: 'keep' },
  ];
  const sound = () => bijou.sounds.byId(one(ids));
  const acts: (() => unknown)[] = [
    () => bijou.edits.edit(project, [{ soundId: one(ids), name: one(names) }]),
    () => bijou.edits.edit(project, [{ soundId: one(ids), group: one(['', 'x', 'x/y']) }]),
    () => bijou.edits.edit(project, [{ soundId: one(ids), removed: below(3) === 0 }]),
    () => bijou.edits.edit(project, [{ soundId: one(ids), note: String(below(9)) }]),
    () => bijou.sounds.setRecipe(one(ids), { version: 1, steps: one(recipes) }),
    () => bijou.packs.assign(sound(), one(briefs), one(choices)),
    () => bijou.packs.send(project, { sounds: [one(ids), one(ids)], briefs: [one(briefs)] }),
    () => bijou.packs.release(project, { sounds: [one(ids)], briefs: [one(briefs)] }),
    () => bijou.edits.undo(project),
    () => bijou.edits.redo(project),
    () => {
      const cells = bijou.packs.cells(project);
      return cells.length > 0 && bijou.packs.build(project, [one(cells).id]);
    },
    () =>
      edit({
        names: { pattern: one(['{name}', '{number}_{name}']), meeting: one(['refuse', 'number']) },
        folder: one([undefined, '{group}']),
      }),
    () => bijou.jobs.cancelAll(project),
  ];
  return one(acts);
}

test('after thousands of changes, rows are what everything worked out anew would be', async () => {
  const all = await withProject();
  const { bijou, folder, project, ids } = all;
  const below = numbers(20_261_201);
  bijou.packs.send(project, { sounds: ids, briefs: ['web-page', all.own] });
  let done = 0;
  const states = new Set<string>();
  for (let n = 0; n < 2_400; n++) {
    try {
      await anyAct(all, below)();
      done++;
    } catch (error) {
      // What is refused changes nothing, which is held against as well.
      if (!(error instanceof BijouError)) throw error;
    }
    if (n % 400 === 399) await bijou.jobs.idle();
    if (n % 80 !== 0 && n % 400 !== 399) continue;
    const { stored, anew, paths, named } = held(bijou, folder, project);
    expect(stored).toEqual(anew);
    expect(paths).toEqual(named);
    for (const { state } of stored) states.add(state);
  }
  expect(done).toBeGreaterThan(1_200);
  expect([...states]).toEqual(
    expect.arrayContaining(['convert', 'cannot', 'working', 'built', 'outdated']),
  );
  const copy = await bijou.projects.copy(project);
  await bijou.jobs.idle();
  const twin = held(bijou, folder, copy.id);
  expect(twin.stored).toEqual(twin.anew);
  expect(twin.paths).toEqual(twin.named);
});

test('what changes while a project is copied is not taken for what its copy has', async () => {
  const { bijou, folder, project, ids } = await withProject();
  bijou.packs.send(project, { sounds: ids, briefs: ['wav-master'] });
  bijou.packs.build(project);
  await bijou.jobs.idle();
  // Its sounds are copied by now, and not what is known of them.
  const copying = bijou.projects.copy(project);
  bijou.sounds.setRecipe(ids[0]!, { version: 1, steps: [step('reverse', {})] });
  const copy = await copying;
  await bijou.jobs.idle();
  const { stored, anew, paths, named } = held(bijou, folder, copy.id);
  expect(stored).toEqual(anew);
  expect(paths).toEqual(named);
  expect(stored[0]!.state).toBe('built');
});

test('a need is worked out anew only where it may be another', async () => {
  const { bijou, folder, project, ids } = await withProject();
  bijou.packs.send(project, { sounds: ids, briefs: ['web-page'] });
  const db = new Database(join(folder, 'bijou.db'));
  // Stays as long as nothing is worked out.
  db.exec('UPDATE cells SET seconds = 77');
  const kept = () => {
    bijou.packs.cells(project);
    return db.prepare('SELECT count(*) FROM cells WHERE seconds = 77').pluck().get();
  };
  db.exec('UPDATE sounds SET name = name, state = state');
  expect(kept()).toBe(ids.length);
  bijou.edits.edit(project, [{ soundId: ids[0]!, name: 'other' }]);
  expect(kept()).toBe(ids.length - 1);
  db.close();
});

test('pages that are told what has changed know the same as those that ask for all of it', async () => {
  const all = await withProject();
  const { bijou, project } = all;
  const below = numbers(7);
  const { withNews } = await import('@/ui/shared/news');
  let page = bijou.projectState(project);
  for (let n = 0; n < 300; n++) {
    try {
      await anyAct(all, below)();
    } catch (error) {
      if (!(error instanceof BijouError)) throw error;
    }
    if (below(3) > 0) continue;
    page = withNews(page, bijou.projectNews(project, { revision: page.revision }));
    const whole = bijou.projectState(project);
    expect(page.cells).toEqual(whole.cells);
    expect(page.sounds).toEqual(whole.sounds);
  }
});

test('very many cells say that they are being checked, are worked out soon, and at once for who looks at them', async () => {
  const { bijou, folder } = await freshBijou();
  const project = bijou.projects.add('Many');
  const files: Record<string, Uint8Array> = {};
  for (let n = 0; n < 60; n++) files[`s${n}.wav`] = await tone(100 + n, 60);
  await bringIn(bijou, project, files);
  const ids = bijou.sounds.ofProject(project).map(({ id }) => id);
  const briefs = ['web-page', 'wav-master', 'engine-effects', 'archive', 'game-mod'];
  bijou.packs.send(project, { sounds: ids, briefs });
  const cells = bijou.packs.cells(project);
  expect(cells).toHaveLength(300);
  expect(new Set(cells.map(({ state }) => state))).toEqual(new Set(['checking']));
  const last = cells.at(-1)!;
  expect(bijou.packs.lines(project, [last.id])[0]!.plans.length).toBeGreaterThan(0);
  expect(bijou.packs.cells(project).at(-1)!.state).not.toBe('checking');
  // One that changes meanwhile does not wait for the others.
  bijou.edits.edit(project, [{ soundId: last.soundId, name: 'other' }]);
  expect(bijou.packs.cells(project).at(-1)!.state).not.toBe('checking');
  expect(bijou.packs.lines(project, [last.id])[0]!.plans[0]!.path).toMatch(/other/);
  const { revision } = bijou.projectState(project);
  await bijou.jobs.idle();
  const { stored, anew, paths, named } = held(bijou, folder, project);
  expect(stored).toEqual(anew);
  expect(paths).toEqual(named);
  expect(bijou.projectNews(project, { revision }).cells.length).toBeGreaterThan(200);
});

test('what a crash, another Bijou or somebody else leaves stale is worked out at the next start', async () => {
  const { bijou, folder, project, ids } = await withProject();
  bijou.packs.send(project, { sounds: ids, briefs: ['web-page'] });
  const cells = bijou.packs.cells(project);
  await bijou.close();
  const db = new Database(join(folder, 'bijou.db'));
  db.exec(`UPDATE cells SET state = 'built', finished = 9; UPDATE judges SET version = 'older'`);
  db.close();
  const { bijou: again } = await freshBijou(folder);
  await again.jobs.idle();
  const told = (list: typeof cells) => list.map(({ id, state, finished }) => [id, state, finished]);
  expect(told(again.packs.cells(project))).toEqual(told(cells));
});
