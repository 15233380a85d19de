import { join } from 'node:path';
import { emptyRecipe } from '@/core/recipe/types';
import { mountSmallDisk, onSmallDisk, unmount } from '../disk';
import { bringIn, placed, tone } from './bringing';
import { cleanUp, freshBijou, storedFiles, streamOf, temporaryFolder } from './folder';

afterAll(cleanUp);

async function withProject() {
  const { bijou, folder } = await freshBijou();
  return { bijou, folder, project: bijou.projects.add('Test') };
}

const text = (words: string) => new TextEncoder().encode(words);

test('a folder comes in with its structure; what is no sound is left out and counted', async () => {
  const { bijou, project } = await withProject();
  await bringIn(bijou, project, {
    'storm/thunder.wav': await tone(100),
    'storm/wind/gust.wav': await tone(200),
    'storm/wind/Gust.wav': await tone(201),
    'storm/wind/duplicate.wav': await tone(200),
    'storm/Donner 雷.wav': await tone(202),
    'storm/readme.txt': text('hello'),
    'storm/.DS_Store': text('x'),
    '__MACOSX/storm/._thunder.wav': text('x'),
    '../evil.wav': await tone(203),
    'storm/letter.wav': text('Dear Sir'),
    'storm/empty.wav': new Uint8Array(0),
  });
  expect(placed(bijou, project)).toEqual([
    'storm/Donner 雷',
    'storm/thunder',
    'storm/wind/Gust',
    'storm/wind/gust',
  ]);
  const intake = bijou.intakes.summary(project)!;
  expect(intake.counts).toEqual({ added: 4, already: 1, failed: 2, 'left-out': 4 });
  expect(intake.leftOut.map(({ reason, count, examples }) => [reason, count, examples[0]])).toEqual(
    expect.arrayContaining([
      ['hidden', 1, 'storm/.DS_Store'],
      ['not-sound', 1, 'storm/readme.txt'],
      ['resource-fork', 1, '__MACOSX/storm/._thunder.wav'],
      ['unsafe-path', 1, '../evil.wav'],
    ]),
  );
  const failed = intake.shown.filter(({ outcome }) => outcome === 'failed');
  expect(failed.map(({ path, error }) => [path, error?.code])).toEqual([
    ['storm/letter.wav', 'not-audio'],
    ['storm/empty.wav', 'empty-file'],
  ]);
  expect(intake.shown.find(({ outcome }) => outcome === 'already')?.soundName).toBe('gust');

  await bijou.intakes.dismiss(project);
  expect(bijou.intakes.summary(project)).toBeNull();
  expect(bijou.sounds.ofProject(project)).toHaveLength(4);
});

describe('a changed file under a known name', () => {
  async function changed(path = 'bell.wav', again = path) {
    const made = await withProject();
    const { bijou, project } = made;
    await bringIn(bijou, project, { [path]: await tone(300) });
    const [before] = bijou.sounds.ofProject(project);
    bijou.sounds.setRecipe(before!.id, {
      version: 1,
      steps: [{ kind: 'keep', on: true, params: { startFrame: 0, endFrame: 1_500 } }],
    });
    bijou.packs.assign(before!, 'web-page', {});
    await bringIn(bijou, project, { [again]: await tone(301, 1_000) });
    const differing = bijou.intakes.arrivals(project, 'differs');
    return { ...made, before: before!, differing };
  }

  test('waits for a decision, and is in no list until then', async () => {
    const { bijou, project, before, differing } = await changed();
    expect(differing).toHaveLength(1);
    expect(bijou.sounds.ofProject(project).map(({ id }) => id)).toEqual([before.id]);
    expect(bijou.projectNews(project, { revision: 0 }).changed.map(({ id }) => id)).toEqual([
      before.id,
    ]);
  });

  test('replaces the source; recipe and assignment stay; undo brings the old bytes back', async () => {
    const { bijou, project, before, differing } = await changed();
    await bijou.intakes.decide(project, [differing[0]!.id], 'replace');
    const after = bijou.sounds.byId(before.id);
    expect(after).toMatchObject({
      recipe: { steps: [{ kind: 'keep' }] },
      facts: { frames: 1_000 },
      // The kept span ends behind the new end: said, not silently mended.
      recipeProblem: { code: 'bad-span' },
    });
    expect(bijou.packs.lines(project)).toMatchObject([{ obstacle: { code: 'bad-span' } }]);
    expect(bijou.sounds.ofProject(project)).toHaveLength(1);
    expect(bijou.intakes.summary(project)!.counts).toEqual({ replaced: 1 });
    bijou.edits.undo(project);
    const { sourceSha256, facts, recipeProblem } = bijou.sounds.byId(before.id);
    expect([sourceSha256, facts!.frames, recipeProblem]).toEqual([
      before.sourceSha256,
      2_000,
      null,
    ]);
  });

  test('is added as new, under a name of its own', async () => {
    const { bijou, project, differing } = await changed();
    await bijou.intakes.decide(project, [differing[0]!.id], 'add');
    expect(placed(bijou, project)).toEqual(['bell', 'bell 2']);
    expect(bijou.sounds.ofProject(project)[1]!.recipe).toEqual(emptyRecipe);
  });

  test('is let go with its bytes', async () => {
    const { bijou, folder, project, differing } = await changed();
    const files = (await storedFiles(folder)).length;
    await bijou.intakes.decide(project, [differing[0]!.id], 'keep');
    expect(placed(bijou, project)).toEqual(['bell']);
    expect((await storedFiles(folder)).length).toBeLessThan(files);
  });

  test('a file of the same name in another folder is another file', async () => {
    const { bijou, project, differing } = await changed('a/bell.wav', 'b/bell.wav');
    expect(differing).toEqual([]);
    expect(placed(bijou, project)).toEqual(['a/bell', 'b/bell']);
  });

  test('without a folder it is the one file of that name', async () => {
    const { differing } = await changed('a/bell.wav', 'bell.wav');
    expect(differing).toHaveLength(1);
  });
});

test('a file that was cut off is waited for, also after a restart, and can be sent again', async () => {
  const { bijou, folder, project } = await withProject();
  const bytes = await tone(400);
  const [arrival] = bijou.intakes.begin(project, [{ path: 'a.wav', bytes: bytes.length }]);
  const cut = await bijou.intakes.receive(arrival!.id, streamOf(bytes, 99), bytes.length);
  expect(cut).toMatchObject({ state: 'failed', error: { code: 'cut-off' } });
  await bijou.close();
  const { bijou: again } = await freshBijou(folder);
  expect(again.intakes.arrivals(project, 'waiting')).toMatchObject([{ path: 'a.wav' }]);
  await again.intakes.receive(arrival!.id, streamOf(bytes), bytes.length);
  await again.jobs.idle();
  expect(again.intakes.summary(project)!.counts).toEqual({ added: 1 });
  await expect(
    again.intakes.receive(arrival!.id, streamOf(bytes), bytes.length),
  ).rejects.toMatchObject({ code: 'not-found' });
});

test('cancelling forgets what has not come; the next bringing in puts away what went well', async () => {
  const { bijou, project } = await withProject();
  const files = [1, 2].map((n) => ({ path: `${n}.wav`, bytes: 10 }));
  const [first] = bijou.intakes.begin(project, files);
  bijou.intakes.cancel(project);
  expect(bijou.intakes.summary(project)!.counts).toEqual({ cancelled: 2 });
  const bytes = await tone(1);
  await expect(bijou.intakes.receive(first!.id, streamOf(bytes), null)).rejects.toMatchObject({
    code: 'not-found',
  });
  await bringIn(bijou, project, { 'a.wav': bytes });
  expect(bijou.intakes.summary(project)!.counts).toEqual({ added: 1 });
});

test('too many files, and files that are too large, are refused before they are sent', async () => {
  const { bijou, project } = await withProject();
  process.env['BIJOU_MAX_BYTES'] = '1000';
  try {
    const [large] = bijou.intakes.begin(project, [{ path: 'large.wav', bytes: 1_001 }]);
    expect(large!.isWanted).toBe(false);
    expect(bijou.intakes.arrivals(project, 'failed')[0]!.error!.code).toBe('too-large');
  } finally {
    delete process.env['BIJOU_MAX_BYTES'];
  }
  const many = Array.from({ length: 50_001 }, (_, n) => ({ path: `${n}.wav`, bytes: 1 }));
  expect(() => bijou.intakes.begin(project, many)).toThrow(/50,001 files at once/);
});

onSmallDisk(
  'a disk that fills up midway fails those files, keeps the others, and nothing half-written',
  async () => {
    const disk = join(await temporaryFolder(), 'disk');
    mountSmallDisk(disk);
    const { bijou } = await freshBijou(disk);
    try {
      const project = bijou.projects.add('Full');
      const long = await tone(500, 300_000);
      await bringIn(bijou, project, {
        'first.wav': await tone(501),
        'a.wav': long,
        'b.wav': await tone(502, 300_000),
        'c.wav': await tone(503, 300_000),
        'd.wav': await tone(504, 300_000),
      });
      const { counts, shown } = bijou.intakes.summary(project)!;
      expect(counts.added).toBeGreaterThanOrEqual(1);
      expect(counts.failed).toBeGreaterThanOrEqual(1);
      for (const { error } of shown) expect(error!.code).toBe('disk');
      const stored = await storedFiles(disk);
      const whole = bijou.sounds.ofProject(project).filter(({ state }) => state === 'ready');
      for (const { sourceSha256 } of whole) expect(stored).toContain(sourceSha256);
      expect(stored.filter((name) => name.includes('-'))).toEqual([]);
    } finally {
      await bijou.close();
      unmount(disk);
    }
  },
);
