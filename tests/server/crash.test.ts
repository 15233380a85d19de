import { spawn } from 'node:child_process';
import { existsSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import Database from 'better-sqlite3';
import { killedRounds } from '../../tools/kill/rounds';
import { faultsOf } from '../../tools/kill/verify';
import { cleanUp, freshBijou, storedFiles, temporaryFolder } from './folder';

afterAll(cleanUp);

test('killed in the middle of its work, it goes on where it was', async () => {
  const folder = await temporaryFolder();
  const child = spawn(process.execPath, [resolve('dist/loadDemo.mjs')], {
    env: { ...process.env, BIJOU_DATA: folder },
    stdio: 'ignore',
  });
  const ended = new Promise((done) => child.once('exit', done));
  // Wait until builds are at work, then pull the plug.
  const path = join(folder, 'bijou.db');
  for (let running = 0; running === 0;) {
    await new Promise((done) => setTimeout(done, 20));
    if (child.exitCode !== null) throw new Error('it ended before it could be killed');
    if (!existsSync(path)) continue;
    const db = new Database(path, { readonly: true });
    try {
      running = db
        .prepare<[], number>(
          "SELECT count(*) FROM jobs WHERE kind = 'encode' AND state = 'running'",
        )
        .pluck()
        .get()!;
    } catch {
      // The tables are not there yet.
    } finally {
      db.close();
    }
  }
  child.kill('SIGKILL');
  await ended;

  const { bijou } = await freshBijou(folder);
  const project = bijou.projects.all()[0]!.id;
  await bijou.jobs.idle();
  expect(bijou.jobs.open(project)).toEqual([]);
  const outputs = bijou.packs.lines(project).flatMap((line) => line.outputs);
  expect(outputs.length).toBeGreaterThan(3);
  expect(outputs.map(({ state }) => state)).toEqual(outputs.map(() => 'done'));
  expect((await storedFiles(folder)).every((name) => /^[0-9a-f]{64}(\.|$)/.test(name))).toBe(true);
});

test('killed at random moments of bringing in, joining, building and cleaning up, nothing is lost', async () => {
  const folder = await temporaryFolder();
  expect(await killedRounds(folder, 5, 7)).toEqual([]);
  // And what is lost would be seen.
  const { bijou } = await freshBijou(folder);
  const sound = bijou.sounds
    .ofProject(1)
    .find(({ state, join: joined }) => state === 'ready' && !joined)!;
  rmSync(bijou.store.path(sound.sourceSha256));
  expect(await faultsOf(bijou, folder)).toContain(`${sound.name} has lost its file`);
});
