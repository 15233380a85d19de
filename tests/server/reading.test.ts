import { join } from 'node:path';
import { openTables } from '@/server/db';
import type { JobHandler } from '@/server/jobs/kind';
import { RANK } from '@/server/jobs/ranks';
import { JobRunner } from '@/server/jobs/runner';
import { encode } from '../core/files';
import { noise } from '../core/signals';
import { bringIn, tone } from './bringing';
import { cleanUp, freshBijou, streamOf, temporaryFolder } from './folder';
import { makeZip } from '../../tools/made/zip';

afterAll(cleanUp);

test('what takes long is overtaken by all that waits behind it; what is quiet comes last', async () => {
  const db = openTables(join(await temporaryFolder(), 'bijou.db'));
  const project = db.projects.add('Slow');
  const ended: string[] = [];
  let release: () => void = () => undefined;
  const released = new Promise<void>((resolve) => (release = resolve));
  const handler = (kind: string): JobHandler => ({
    lane: 'threads',
    isOvertaken: kind === 'read',
    basis: () => '',
    start: () => undefined,
    async run({ subjectId }) {
      // The first two come to no end by themselves.
      if (kind === 'read' && subjectId <= 2) await released;
      ended.push(`${kind} ${subjectId}`);
    },
    fail: () => undefined,
    cancel: () => undefined,
  });
  const kinds = ['outcome', 'read'];
  const runner = new JobRunner(
    db,
    new Map(kinds.map((kind) => [kind, handler(kind)])),
    { changed: () => undefined, progressed: () => undefined },
    { temporaryPath: () => '', threads: 2, quiet: async () => {} },
  );
  db.jobs.add(project, 'outcome', 9, RANK.quiet);
  for (const subject of [1, 2, 3, 4, 5]) db.jobs.add(project, 'read', subject);
  runner.start();
  const others = ['read 3', 'read 4', 'read 5', 'outcome 9'];
  const due = Date.now() + 10_000;
  while (ended.length < others.length && Date.now() < due) {
    await new Promise((resume) => setTimeout(resume, 50));
  }
  expect(ended).toEqual(others);
  release();
  await runner.idle();
  expect(ended.slice(4).sort()).toEqual(['read 1', 'read 2']);
  db.close();
});

/** Long enough that reading it is seen. */
const long = () => encode([noise(8_000 * 120, 1, 0.3)], 8_000, 'wav', { bits: 16 });

test('a sound that is taken out is not read on, and is when it is brought back', async () => {
  const { bijou } = await freshBijou();
  const project = bijou.projects.add('Out');
  const bytes = await long();
  const [announced] = bijou.intakes.begin(project, [{ path: 'long.wav', bytes: bytes.length }]);
  await bijou.intakes.receive(announced!.id, streamOf(bytes), bytes.length);
  const [sound] = bijou.sounds.ofProject(project);
  expect(bijou.jobs.open(project).map(({ kind }) => kind)).toEqual(['read']);
  bijou.edits.edit(project, [{ soundId: sound!.id, removed: true }]);
  await bijou.jobs.idle();
  expect(bijou.jobs.open(project)).toEqual([]);
  expect(bijou.sounds.byId(sound!.id).facts).toBeNull();
  bijou.edits.undo(project);
  expect(bijou.jobs.open(project).map(({ kind }) => kind)).toEqual(['read']);
  await bijou.jobs.idle();
  expect(bijou.sounds.byId(sound!.id)).toMatchObject({ state: 'ready', error: null });
});

test('one file is cancelled alone, while it is read or before it has come', async () => {
  const { bijou } = await freshBijou();
  const project = bijou.projects.add('Alone');
  const files = { 'a.wav': await long(), 'b.wav': await tone(300), 'c.wav': await tone(400) };
  const announced = bijou.intakes.begin(
    project,
    Object.entries(files).map(([path, { length: bytes }]) => ({ path, bytes })),
  );
  const [a, b, c] = announced.map(({ id }) => id) as [number, number, number];
  await bijou.intakes.receive(a, streamOf(files['a.wav']), files['a.wav'].length);
  await bijou.intakes.receive(b, streamOf(files['b.wav']), files['b.wav'].length);
  bijou.intakes.cancelOne(c);
  await expect(bijou.intakes.receive(c, streamOf(files['c.wav']), null)).rejects.toThrow(
    /Nobody waits/,
  );
  const [first] = bijou.jobs.open(project);
  bijou.jobs.cancel(first!.id);
  await bijou.jobs.idle();
  expect(bijou.sounds.ofProject(project).map(({ name, state }) => [name, state])).toEqual([
    ['a', 'refused'],
    ['b', 'ready'],
  ]);
  expect(bijou.intakes.summary(project)!.counts).toMatchObject({ cancelled: 2, added: 1 });
});

test('an archive with nothing in it is mentioned', async () => {
  const { bijou } = await freshBijou();
  const project = bijou.projects.add('Empty');
  await bringIn(bijou, project, { 'none.zip': makeZip([]) });
  expect(bijou.intakes.summary(project)).toMatchObject({
    counts: { 'left-out': 1 },
    leftOut: [{ reason: 'empty-archive', examples: ['none.zip'] }],
  });
});
