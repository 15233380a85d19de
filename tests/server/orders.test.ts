import { join } from 'node:path';
import Database from 'better-sqlite3';
import type { Bijou } from '@/server/bijou';
import { bringIn, tone } from './bringing';
import { cleanUp, freshBijou } from './folder';

afterAll(cleanUp);

const BRIEFS = ['wav-master', 'engine-effects', 'archive'];

/** More than is begun at once. */
async function withMany() {
  const { bijou, folder } = await freshBijou();
  const project = bijou.projects.add('Many');
  const files: Record<string, Uint8Array> = {};
  for (let n = 0; n < 70; n++) files[`s${n}.wav`] = await tone(100 + n, 60);
  await bringIn(bijou, project, files);
  const sounds = bijou.sounds.ofProject(project).map(({ id }) => id);
  bijou.packs.send(project, { sounds, briefs: BRIEFS });
  await bijou.jobs.idle();
  return { bijou, folder, project };
}

const open = (bijou: Bijou, project: number) =>
  bijou.projectState(project).work.find(({ kind }) => kind === 'encode')?.open ?? 0;
const states = (bijou: Bijou, project: number) => [
  ...new Set(bijou.packs.cells(project).map(({ state }) => state)),
];

test('a build of very many is begun a part at a time, goes on after a restart, and packs wait for all of it', async () => {
  const { bijou, folder, project } = await withMany();
  const buildId = bijou.packs.build(project);
  expect(open(bijou, project)).toBe(210);
  expect(bijou.builds.details(project, buildId)).toMatchObject({
    files: 210,
    open: 210,
    outputs: [],
  });
  const pack = await bijou.packing.make(project, ['archive']);
  expect(pack.state).toBe('waiting');
  // Asked for by hand: it waits for no other, and is made once.
  const [cell] = bijou.packs.cells(project).slice(-1);
  bijou.packs.build(project, [cell!.id]);
  await bijou.close();

  const { bijou: again } = await freshBijou(folder);
  expect(open(again, project)).toBeGreaterThan(100);
  // However much of it is queued: all of it is told, once.
  const told = new Set<number>();
  const letGo = again.listen(project, () =>
    told.add(again.builds.list(project).find(({ id }) => id === buildId)!.files),
  );
  await again.jobs.idle();
  letGo();
  expect(told.size).toBe(1);
  expect(states(again, project)).toEqual(['built']);
  expect(again.packing.list(project)).toMatchObject([{ id: pack.id, state: 'done' }]);
  for (const { files, done } of again.builds.list(project)) expect(done).toBe(files);
  expect(again.builds.details(project, buildId).outputs.length).toBeGreaterThan(100);
});

test('a few of very many are queued at a time', async () => {
  const { bijou, folder, project } = await withMany();
  bijou.packs.build(project);
  const db = new Database(join(folder, 'bijou.db'), { readonly: true });
  const queued = db.prepare("SELECT count(*) FROM jobs WHERE state = 'queued'").pluck();
  const longest = await new Promise<number>((done) => {
    let most = 0;
    const letGo = bijou.listen(project, () => {
      most = Math.max(most, queued.get() as number);
      if (open(bijou, project) >= 100) return;
      letGo();
      done(most);
    });
  });
  db.close();
  expect(longest).toBeGreaterThan(80);
  expect(longest).toBeLessThanOrEqual(130);
  await bijou.jobs.cancelAll(project);
});

test('what is cancelled before it was queued is not built, and leaves no build behind', async () => {
  const { bijou, project } = await withMany();
  bijou.packs.build(project);
  await bijou.jobs.cancelAll(project);
  expect(open(bijou, project)).toBe(0);
  await bijou.jobs.idle();
  expect(bijou.builds.list(project)).toEqual([]);
  expect(states(bijou, project)).not.toContain('working');
  const sounds = bijou.sounds.ofProject(project).map(({ id }) => id);
  bijou.edits.edit(
    project,
    sounds.map((soundId) => ({ soundId, removed: true })),
  );
  expect(() => bijou.packs.build(project)).toThrow('Nothing is assigned');
});
