import { writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import Database from 'better-sqlite3';
import { textKind } from '@/core/pack/texts/kinds';
import { filledTemplate } from '@/core/pack/texts/template';
import { Planner } from '@/server/work/pool';
import { cleanUp, freshBijou, storedFiles, temporaryFolder } from './folder';
import { withIsle } from './isle';

afterAll(cleanUp);

describe('what strangers’ packs cost is limited', () => {
  const question = { kind: 'icon', given: null, title: 'Isle', sizes: [32] } as const;

  test('a thread that does not come to an end is ended, and the next question is answered', async () => {
    const planner = new Planner(resolve('tests/server/endless.mjs'), 200);
    await expect(planner.ask({ ...question, sizes: [32] })).rejects.toMatchObject({
      code: 'too-slow',
    });
    await planner.close();
    const sound = new Planner(resolve('dist/worker.mjs'));
    expect((await sound.ask({ ...question, sizes: [32] })).length).toBeGreaterThan(100);
    await sound.close();
  });

  test('a thread that takes all memory is ended, and nothing else is', async () => {
    const folder = await temporaryFolder();
    const worker = join(folder, 'greedy.mjs');
    writeFileSync(
      worker,
      'export default () => { const a = []; for (;;) a.push(new Array(2e6).fill({})); };',
    );
    const planner = new Planner(worker, 60_000);
    const silenced = console.error;
    console.error = () => undefined;
    try {
      await expect(planner.ask({ ...question, sizes: [32] })).rejects.toMatchObject({
        code: 'memory',
      });
    } finally {
      console.error = silenced;
    }
    await planner.close();
  }, 60_000);

  test('an icon of any size is drawn beside the server', async () => {
    const planner = new Planner(resolve('dist/worker.mjs'));
    let [last, longest] = [performance.now(), 0];
    const clock = setInterval(() => {
      longest = Math.max(longest, performance.now() - last);
      last = performance.now();
    }, 5);
    const icon = await planner.ask({ ...question, sizes: [2_048] });
    clearInterval(clock);
    expect(icon.length).toBeGreaterThan(10_000);
    // Drawing takes seconds; meanwhile the loop goes round, however busy the machine is.
    expect(longest).toBeLessThan(1_500);
    await planner.close();
  }, 60_000);

  test('a hundred edits of a template leave the memory as it was', () => {
    const data = { title: 'tide', list: [{ n: 1 }] };
    const edit = (n: number) =>
      filledTemplate(
        `${n} ${'{{title}} {{#list}}{{n}}{{/list}} words '.repeat(1_000)}`,
        data,
        textKind('text'),
        false,
      );
    setFlagsFromString('--expose-gc');
    const collect = runInNewContext('gc') as () => void;
    const used = () => {
      collect();
      return process.memoryUsage().heapUsed;
    };
    for (let n = 0; n < 30; n++) edit(n);
    const before = used();
    for (let n = 30; n < 130; n++) expect(edit(n).problems).toEqual([]);
    // Each kept would be 37 kB and its thousands of tokens: more than a hundred megabytes.
    expect(used() - before).toBeLessThan(30e6);
  });

  test('paths and names without end, and a thousand that there are not, are given up soon', () => {
    const begun = performance.now();
    const fill = (template: string) =>
      filledTemplate(template, { a: [1, 2, 3] }, textKind('text'), false);
    const path = `a${'.a'.repeat(60_000)}`;
    expect(fill(`{{#a}}{{${path}}}{{/a}}`).problems).toHaveLength(1);
    const names = Array.from({ length: 9_000 }, (_, n) => `{{unknown${n}}}`).join('');
    expect(fill(names).problems.length).toBeLessThanOrEqual(50);
    const many = Array.from({ length: 5_000 }, () => '{{>other}}').join('');
    expect(fill(many).problems.length).toBeLessThanOrEqual(50);
    expect(performance.now() - begun).toBeLessThan(20_000);
  });
});

test('a pack over which Bijou ended three times is given up, and says so; the others go on', async () => {
  const { bijou, folder, project, brief } = await withIsle();
  const { id } = await bijou.packing.make(project, [brief]);
  await bijou.jobs.idle();
  await bijou.close();
  const db = new Database(join(folder, 'bijou.db'));
  db.prepare("UPDATE packs SET state = 'packing', digest = NULL").run();
  db.prepare(
    "INSERT INTO jobs (projectId, kind, subjectId, state, attempts, createdAt) VALUES (?, 'pack', ?, 'running', 2, '')",
  ).run(project, id);
  db.close();
  const silenced = console.error;
  const said: unknown[] = [];
  console.error = (...words: unknown[]) => said.push(words.join(' '));
  const { bijou: again } = await freshBijou(folder);
  console.error = silenced;
  await again.jobs.idle();
  const pack = await again.packing.details(id, null);
  expect(pack).toMatchObject({ state: 'failed', error: { code: 'memory' } });
  expect(pack.error!.message).toMatch(/ended 3 times/);
  expect(said.join(' ')).toMatch(new RegExp(`pack ${id}\\)`));
  // Made anew it is a pack like any other.
  const { id: next } = await again.packing.make(project, [brief]);
  await again.jobs.idle();
  expect(await again.packing.details(next, null)).toMatchObject({ state: 'done' });
});

describe('work that is shared', () => {
  test('a pack of a copied project waits for files that the original has ordered', async () => {
    const { bijou, project, brief } = await withIsle();
    const copy = (await bijou.projects.copy(project)).id;
    bijou.packs.build(project);
    // Not a breath later: everything is still being made, and by the other one.
    const made = bijou.packing.make(copy, [brief]);
    const { id } = await made;
    await bijou.jobs.idle();
    expect(await bijou.packing.details(id, null)).toMatchObject({ state: 'done', error: null });
  });

  test('equal packs that wait are one', async () => {
    const { bijou, project, brief } = await withIsle();
    const ids = await Promise.all([1, 2, 3].map(() => bijou.packing.make(project, [brief, brief])));
    expect(new Set(ids.map(({ id }) => id)).size).toBe(1);
    expect(ids[0]!.briefs).toEqual([brief]);
    await bijou.jobs.idle();
    expect(bijou.packing.list(project)).toHaveLength(1);
  });

  test('stopping a conversion stops nothing that something else waits for', async () => {
    const { bijou, project, ids } = await withIsle();
    const wish = { writer: 'ogg', settings: { quality: 9 } };
    const first = await bijou.oneOffs.begin(project, ids, wish);
    const second = await bijou.oneOffs.begin(project, ids.slice(1), wish);
    const stopped = bijou.oneOffs.stop(first.id);
    const states = (set: { files: { state: string }[] }) => set.files.map(({ state }) => state);
    expect(states(stopped).slice(1)).toEqual(
      states(stopped)
        .slice(1)
        .map((state) => (state === 'done' ? 'done' : 'cancelled')),
    );
    await bijou.jobs.idle();
    expect(states(bijou.oneOffs.state(second.id))).toEqual(second.files.map(() => 'done'));
  });
});

test('a project that goes for good takes the texts and icons of its packs along', async () => {
  const { bijou, folder, project, brief } = await withIsle();
  await bijou.packing.make(project, [brief]);
  await bijou.jobs.idle();
  bijou.projects.remove(project);
  await bijou.projects.letGo(project);
  expect(await storedFiles(folder)).toEqual([]);
});

test('of the packs of a project fifty are kept in its list, and clean-up counts those that are out of it', async () => {
  const { bijou, folder, project, brief } = await withIsle();
  const { id } = await bijou.packing.make(project, [brief]);
  await bijou.jobs.idle();
  await bijou.close();
  const db = new Database(join(folder, 'bijou.db'));
  const copy = db.prepare(
    'INSERT INTO packs (projectId, title, briefs, state, digest, createdAt) SELECT projectId, title, briefs, state, ?, createdAt FROM packs WHERE id = ?',
  );
  for (let n = 0; n < 60; n++) copy.run(`other ${n}`, id);
  db.close();
  const { bijou: again } = await freshBijou(folder);
  again.layouts.settle(project, brief, { title: 'Another' });
  await again.packing.make(project, [brief]);
  await again.jobs.idle();
  expect(again.packing.list(project)).toHaveLength(51);
  const waste = await again.cleaning.waste(project);
  expect(waste.removedPacks).toBe(11);
  expect((await again.cleaning.cleanUp(project)).removedPacks).toBe(waste.removedPacks);
  expect((await again.cleaning.waste(project)).removedPacks).toBe(0);
});
