import { existsSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { BijouError } from '@/core/errors';
import { openTables } from '@/server/db';
import type { JobHandler } from '@/server/jobs/kind';
import { RANK, type Rank } from '@/server/jobs/ranks';
import { JobRunner } from '@/server/jobs/runner';
import { WorkerPool } from '@/server/work/pool';
import { mostMs } from '@/server/work/tasks';
import { cleanUp, temporaryFolder } from './folder';

afterAll(cleanUp);

/** A runner over a real database whose one kind of job does as the test says. */
async function runnerWith(run: JobHandler['run'], quiet = async () => {}) {
  const folder = await temporaryFolder();
  const db = openTables(join(folder, 'bijou.db'));
  const project = db.projects.add('Test');
  const log: string[] = [];
  const handler: JobHandler = {
    lane: 'threads',
    basis: () => '',
    start: (job) => log.push(`start ${job.subjectId}`),
    run,
    fail: (job, error) => void log.push(`fail ${job.subjectId} ${error.code}`),
    cancel: (job) => void log.push(`cancel ${job.subjectId}`),
  };
  const runner = new JobRunner(
    db,
    new Map<string, JobHandler>([
      ['read', handler],
      ['unpack', { ...handler, lane: 'beside' }],
      ['weigh', { ...handler, lane: 'alone' }],
    ]),
    { changed: () => undefined, progressed: () => undefined },
    { temporaryPath: () => join(folder, `part-${Math.random()}`), threads: 2, quiet },
  );
  const add = (subject: number, kind = 'read', rank: Rank = RANK.usual) =>
    db.jobs.add(project, kind, subject, rank);
  return { runner, db, log, add, project };
}

/** A job that has ended is no row any more. */
const states = (db: ReturnType<typeof openTables>, ids: number[]) =>
  ids.map((id) => db.jobs.byId(id)?.state ?? 'ended');

test('in order, two at a time, one bad job among good ones', async () => {
  let now = 0;
  let most = 0;
  const { runner, db, log, add } = await runnerWith(async (job) => {
    most = Math.max(most, ++now);
    await new Promise((resolve) => setTimeout(resolve, 10));
    now--;
    if (job.subjectId === 2) throw new BijouError('not-audio', 'No.', 'Hint.');
  });
  const ids = [1, 2, 3, 4, 5].map((n) => add(n));
  runner.start();
  await runner.idle();
  expect(states(db, ids)).toEqual(ids.map(() => 'ended'));
  expect(log.filter((line) => line.startsWith('fail'))).toHaveLength(1);
  expect(log.filter((line) => line.startsWith('start'))).toEqual(
    [1, 2, 3, 4, 5].map((n) => `start ${n}`),
  );
  expect(log).toContain('fail 2 not-audio');
  expect(most).toBe(2);
});

test('a job that fells its thread is tried three times, then given up with a reason', async () => {
  const print = console.error;
  console.error = () => undefined; // it reports every try
  let tries = 0;
  const { runner, db, log, add } = await runnerWith(async () => {
    tries++;
    throw new Error('Worker terminated due to reaching memory limit');
  });
  const id = add(1);
  runner.start();
  await runner.idle();
  console.error = print;
  expect(tries).toBe(3);
  expect(states(db, [id])).toEqual(['ended']);
  expect(log.at(-1)).toBe('fail 1 internal');
});

test('stopping puts running jobs back into the queue, and the next start does them', async () => {
  let isFirst = true;
  const { runner, db, log, add } = await runnerWith(async (_, { signal }) => {
    if (!isFirst) return;
    await new Promise((_resolve, reject) =>
      signal.addEventListener('abort', () => reject(new Error('ended'))),
    );
  });
  const ids = [1, 2, 3].map((n) => add(n));
  runner.start();
  await runner.stop();
  expect(states(db, ids)).toEqual(['queued', 'queued', 'queued']);
  isFirst = false;
  const again = new JobRunner(
    db,
    new Map<string, JobHandler>([
      [
        'read',
        {
          lane: 'threads',
          basis: () => '',
          start: () => undefined,
          run: async () => undefined,
          fail: () => undefined,
          cancel: () => undefined,
        },
      ],
    ]),
    { changed: () => undefined, progressed: () => undefined },
    { temporaryPath: () => '', threads: 2, quiet: async () => {} },
  );
  again.start();
  await again.idle();
  expect(states(db, ids)).toEqual(['ended', 'ended', 'ended']);
  expect(log.some((line) => line.startsWith('cancel') || line.startsWith('fail'))).toBe(false);
});

test('temporary files go, whether the job ends well or not', async () => {
  const made: string[] = [];
  const { runner, add } = await runnerWith(async (job, { temporary }) => {
    const path = temporary();
    made.push(path);
    writeFileSync(path, 'half');
    if (job.subjectId === 1) throw new BijouError('disk', 'Full.', 'Hint.');
  });
  [1, 2].forEach((n) => add(n));
  runner.start();
  await runner.idle();
  expect(made).toHaveLength(2);
  expect(made.filter((path) => existsSync(path))).toEqual([]);
});

test('cancelling a job that waits never starts it', async () => {
  let release = () => {};
  const { runner, db, log, add } = await runnerWith((job) =>
    job.subjectId < 3 ? new Promise<void>((resolve) => (release = resolve)) : Promise.resolve(),
  );
  const ids = [1, 3, 4].map((n) => add(n));
  runner.start();
  expect(runner.cancel(ids[2]!)).toBe(true);
  release();
  await runner.idle();
  expect(states(db, ids)).toEqual(['ended', 'ended', 'ended']);
  expect(log).toContain('cancel 4');
  expect(log).not.toContain('start 4');
});

test('what was at work at a crash runs apart afterwards, and is given up when it was so three times', async () => {
  const apart: boolean[] = [];
  const { runner, db, log, add } = await runnerWith(
    async (_, { isApart }) => void apart.push(isApart!),
  );
  const ids = [1, 2, 3].map((n) => add(n));
  // The plug was pulled while the first was at work, twice.
  for (let crash = 0; crash < 2; crash++) {
    db.jobs.claim(['read'], RANK.quiet);
    db.jobs.requeueRunning();
  }
  runner.start();
  await runner.idle();
  expect(apart.sort()).toEqual([false, false, true]);
  expect(states(db, ids)).toEqual(ids.map(() => 'ended'));
  expect(log.filter((line) => line.startsWith('fail'))).toEqual([]);

  // What is at work each time when everything ends would end everything each time.
  const [fatal] = [4, 5].map((n) => add(n));
  for (let crash = 0; crash < 3; crash++) {
    expect(db.jobs.claim(['read'], RANK.quiet)?.id).toBe(fatal);
    if (crash < 2) db.jobs.requeueRunning();
  }
  apart.length = 0;
  runner.start();
  await runner.idle();
  expect(apart).toEqual([false]);
  expect(log.filter((line) => line.startsWith('fail'))).toEqual(['fail 4 memory']);
});

test('what fells the process that it runs in apart fells nothing else', async () => {
  const folder = await temporaryFolder();
  writeFileSync(join(folder, 'worker.mjs'), 'export default () => ({ ok: true, result: null });');
  const dies = "process.once('message', () => process.kill(process.pid, 'SIGKILL'));";
  writeFileSync(join(folder, 'apart.mjs'), dies);
  const pool = new WorkerPool(join(folder, 'worker.mjs'), 1);
  const options = {
    signal: new AbortController().signal,
    progress: () => undefined,
    isApart: true,
  };
  const task = { kind: 'read', source: '', raw: null, peaks: null } as const;
  // Its threads begin at once; they are not left half-way when all is put away.
  await pool.run(task, { ...options, isApart: false });
  await expect(pool.run(task, options)).rejects.toThrow(/its process ended with SIGKILL/);
  const abort = new AbortController();
  writeFileSync(join(folder, 'apart.mjs'), "process.once('message', () => { for (;;); });");
  setTimeout(() => abort.abort(), 300);
  await expect(pool.run(task, { ...options, signal: abort.signal })).rejects.toThrow(/cancelled/);
  await pool.close();
});

test('a task has its time, and more of it the more there is to do', async () => {
  // Not in a folder that is removed: the thread that takes the place of an ended one still reads it.
  const pool = new WorkerPool(resolve('tests/server/endless.mjs'), 1, 300);
  const task = { kind: 'read', source: '', raw: null, peaks: null } as const;
  const options = { signal: new AbortController().signal, progress: () => undefined };
  await expect(pool.run(task, options)).rejects.toMatchObject({ code: 'too-slow' });
  await pool.close();
  expect(mostMs(task, 2 ** 30)).toBeGreaterThan(10 * mostMs(task, 2 ** 20));
});

test('a job that makes something the database refuses fails, and is not left running', async () => {
  const print = console.error;
  console.error = () => undefined;
  const { runner, db, log, add } = await runnerWith(
    async (_, { commit }) => void commit(() => void db.jobs.add(99, 'read', 1)),
  );
  const id = add(1);
  runner.start();
  await runner.idle();
  console.error = print;
  expect(states(db, [id])).toEqual(['ended']);
  expect(log.at(-1)).toBe('fail 1 internal');
});

test('what is measured runs alone, when nothing else is at work or waiting and nobody is being answered', async () => {
  const atWork: string[] = [];
  const seen: string[][] = [];
  let isQuiet = false;
  const { runner, add } = await runnerWith(
    async (job) => {
      const name = `${job.kind} ${job.subjectId}`;
      atWork.push(name);
      if (job.kind === 'weigh') expect(isQuiet).toBe(true);
      // What comes while it is measured and nobody waits for has to wait, and goes before the next measuring.
      if (name === 'weigh 1') {
        add(9, 'read', RANK.measured);
        runner.pump();
      }
      for (let turn = 0; turn < 3; turn++) {
        seen.push([...atWork]);
        await new Promise((resume) => setTimeout(resume, 5));
      }
      atWork.splice(atWork.indexOf(name), 1);
    },
    async () => {
      await new Promise((resume) => setTimeout(resume, 20));
      isQuiet = true;
    },
  );
  add(1, 'weigh');
  add(2, 'weigh');
  for (const n of [3, 4, 5]) add(n);
  add(6, 'unpack');
  runner.start();
  await runner.idle();
  const weighing = seen.filter((jobs) => jobs.some((job) => job.startsWith('weigh')));
  expect(weighing.every((jobs) => jobs.length === 1)).toBe(true);
  expect(seen.some((jobs) => jobs.length === 3)).toBe(true);
  const order = [...new Set(seen.flat())];
  expect(order.slice(-3)).toEqual(['weigh 1', 'read 9', 'weigh 2']);
});

test('a job of a kind that only a newer Bijou knows stays in the queue', async () => {
  const { runner, db, add } = await runnerWith(async () => undefined);
  const ids = [add(1, 'of tomorrow'), add(2)];
  runner.start();
  await runner.idle();
  expect(states(db, ids)).toEqual(['queued', 'ended']);
});
