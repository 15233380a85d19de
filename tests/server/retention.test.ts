import { rmSync } from 'node:fs';
import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { Bijou } from '@/server/bijou';
import { openTables } from '@/server/db';
import { makeZip } from '../../tools/made/zip';
import { bringIn, tone } from './bringing';
import { cleanUp, freshBijou, storedFiles, streamOf, unzipped } from './folder';

afterAll(cleanUp);

async function project(files: Record<string, Uint8Array>) {
  const { bijou, folder } = await freshBijou();
  const id = bijou.projects.add('Test');
  await bringIn(bijou, id, files);
  const ids = bijou.sounds.ofProject(id).map((sound) => sound.id);
  return { bijou, folder, project: id, ids };
}

async function decideAll(bijou: Bijou, of: number, decision: 'replace' | 'keep' | 'add') {
  const differing = bijou.intakes.arrivals(of, 'differs').map(({ id }) => id);
  await bijou.intakes.decide(of, differing, decision);
}

/** Whether every sound of a project can be heard, and every finished file is there. */
async function isWhole(bijou: Bijou, of: number): Promise<boolean> {
  for (const { sourceSha256 } of bijou.sounds.ofProject(of)) {
    const { samples } = await bijou.listening.ask({ sha256: sourceSha256 }, 'pcm', {
      start: 0,
      frames: 100,
    });
    if (samples.length !== 100) return false;
  }
  for (const { outputs } of bijou.packs.lines(of)) {
    for (const { state, sha256 } of outputs) {
      if (state === 'done' && !(await bijou.store.has(sha256!))) return false;
    }
  }
  return true;
}

describe('bytes that something needs stay', () => {
  test('what undo leads back to, when the same bytes come again and are let go', async () => {
    const [first, second] = [await tone(100), await tone(200)];
    const { bijou, project: id, ids } = await project({ 'kick.wav': first });
    await bringIn(bijou, id, { 'kick.wav': second });
    await decideAll(bijou, id, 'replace');
    await bringIn(bijou, id, { 'kick.wav': first });
    await decideAll(bijou, id, 'keep');
    expect(bijou.edits.undo(id)).toMatch(/^Replace/);
    const { sourceSha256 } = bijou.sounds.byId(ids[0]!);
    expect(await readFile(bijou.store.path(sourceSha256))).toEqual(Buffer.from(first));
    expect(await isWhole(bijou, id)).toBe(true);
    bijou.edits.redo(id);
    expect(await isWhole(bijou, id)).toBe(true);
  });

  test('a finished file that was brought in as a sound and taken out again', async () => {
    const { bijou, project: id, ids } = await project({ 'a.wav': await tone(100) });
    bijou.packs.assign(bijou.sounds.byId(ids[0]!), 'wav-master', {});
    bijou.packs.build(id);
    await bijou.jobs.idle();
    const [output] = bijou.packs.lines(id)[0]!.outputs;
    const bytes = new Uint8Array(await readFile(bijou.store.path(output!.sha256!)));
    await bringIn(bijou, id, { 'built.wav': bytes });
    const built = bijou.sounds.ofProject(id).find(({ name }) => name === 'built')!;
    bijou.edits.edit(id, [{ soundId: built.id, removed: true }]);
    expect((await bijou.cleaning.cleanUp(id)).bytes).toBe(0);
    expect(await isWhole(bijou, id)).toBe(true);
    expect(bijou.packs.output(output!.id).sha256).toBe(output!.sha256);
  });

  test('a clean-up while somebody has not decided: the newcomer stands for itself', async () => {
    const { bijou, project: id, ids } = await project({ 'a.wav': await tone(100) });
    await bringIn(bijou, id, { 'a.wav': await tone(200) });
    bijou.edits.edit(id, [{ soundId: ids[0]!, removed: true }]);
    expect(await bijou.cleaning.cleanUp(id)).toMatchObject({ removedSounds: 1 });
    expect(bijou.sounds.ofProject(id).map(({ name }) => name)).toEqual(['a 2']);
    expect(bijou.intakes.summary(id)!.counts).toEqual({ added: 1 });
    expect(await isWhole(bijou, id)).toBe(true);
  });

  test('of two identical archives in one, the other can be unpacked when one is left out', async () => {
    const inner = makeZip([{ name: 'x.wav', content: await tone(300) }]);
    const { bijou, project: id } = await project({
      'outer.zip': makeZip([
        { name: 'one.zip', content: inner },
        { name: 'two.zip', content: inner },
      ]),
    });
    const [one, two] = bijou.intakes.arrivals(id, 'offered');
    await bijou.intakes.decide(id, [one!.id], 'keep');
    await bijou.intakes.decide(id, [two!.id], 'unpack');
    await bijou.jobs.idle();
    expect(bijou.sounds.ofProject(id).map(({ name }) => name)).toEqual(['x']);
  });

  test('bytes that are refused here and needed there', async () => {
    const { bijou, folder, project: id } = await project({});
    const zip = makeZip([{ name: 'x.wav', content: await tone(300) }]);
    // Offered as an archive, and brought in as samples that cannot be read as what they are said to be.
    await bringIn(bijou, id, { 'pack.dat': zip });
    const [offered] = bijou.intakes.arrivals(id, 'offered');
    await bijou.sounds.add(id, 'pack.wav', streamOf(zip), zip.length);
    await bijou.jobs.idle();
    expect(bijou.intakes.summary(id)!.counts).toEqual({ offered: 1 });
    await bijou.intakes.decide(id, [offered!.id], 'unpack');
    await bijou.jobs.idle();
    expect(bijou.sounds.ofProject(id).map(({ state }) => state)).toContain('ready');
    expect(await storedFiles(folder)).toHaveLength(2);
  });

  test('the same bytes that arrive while they are let go', async () => {
    const { bijou, project: id } = await project({ 'a.wav': await tone(100) });
    const again = await tone(200);
    for (let round = 0; round < 10; round++) {
      await bringIn(bijou, id, { 'a.wav': again });
      const other = bijou.projects.add(`Other ${round}`);
      // Both at once: whoever is first, nothing may be missing.
      await Promise.all([
        decideAll(bijou, id, 'keep'),
        bijou.sounds.add(other, 'b.wav', streamOf(again), again.length),
      ]);
      await bijou.jobs.idle();
      expect(await isWhole(bijou, other)).toBe(true);
      bijou.edits.edit(
        other,
        bijou.sounds.ofProject(other).map(({ id: soundId }) => ({ soundId, removed: true })),
      );
      await bijou.cleaning.cleanUp(other);
    }
  });
});

test('a pack that is being read is read to its end, whatever is built meanwhile', async () => {
  const { bijou, folder, project: id, ids } = await project({ 'a.wav': await tone(100) });
  bijou.packs.assign(bijou.sounds.byId(ids[0]!), 'wav-master', {});
  bijou.packs.build(id);
  await bijou.jobs.idle();
  const before = bijou.packs.lines(id)[0]!.outputs[0]!.sha256!;
  const zip = bijou.packs.pack(id, null).stream.getReader();
  const pieces = [(await zip.read()).value!];
  bijou.sounds.setRecipe(ids[0]!, {
    version: 1,
    steps: [{ kind: 'reverse', on: true, params: {} }],
  });
  bijou.packs.build(id);
  await bijou.jobs.idle();
  expect(await storedFiles(folder)).toContain(before);
  for (let next = await zip.read(); !next.done; next = await zip.read()) pieces.push(next.value);
  const packed = await unzipped(pieces);
  expect(packed.get('wav-master/a.wav')!.length).toBeGreaterThan(1_000);
  await bijou.jobs.idle();
  // It is still in an earlier build; that goes with a clean-up.
  expect(await bijou.cleaning.cleanUp(id)).toMatchObject({ earlierBuilds: 1 });
  expect(await storedFiles(folder)).not.toContain(before);
});

describe('what nothing needs goes', () => {
  test('a finished file, with what belongs to it, when a newer one has taken its place', async () => {
    const { bijou, folder, project: id, ids } = await project({ 'a.wav': await tone(100) });
    bijou.packs.assign(bijou.sounds.byId(ids[0]!), 'web-page', {});
    const build = async () => {
      bijou.packs.build(id);
      await bijou.jobs.idle();
      return bijou.packs.lines(id)[0]!.outputs.map(({ sha256 }) => sha256!);
    };
    const before = await build();
    const steps = [{ kind: 'reverse', on: true, params: {} }];
    bijou.sounds.setRecipe(ids[0]!, { version: 1, steps });
    const after = await build();
    expect(after).not.toEqual(before);
    // Until a clean-up the earlier build can be had again.
    await bijou.cleaning.cleanUp(id);
    const stored = (await storedFiles(folder)).join(' ');
    for (const sha256 of before) expect(stored).not.toContain(sha256);
    for (const sha256 of after) expect(stored).toContain(sha256);
    // What is not sent anywhere any more is kept for it until a clean-up.
    bijou.packs.unassign(bijou.sounds.byId(ids[0]!), 'web-page');
    await bijou.cleaning.cleanUp(id);
    const left = await storedFiles(folder);
    expect(new Set(left.map((name) => name.slice(0, 64))).size).toBe(1);
  });

  test('what a kill left: files without a row, rows without a file, pictures without a sound', async () => {
    const {
      bijou,
      folder,
      project: id,
      ids,
    } = await project({
      'a.wav': await tone(100),
      'b.wav': await tone(200),
    });
    bijou.packs.assign(bijou.sounds.byId(ids[0]!), 'wav-master', {});
    bijou.packs.build(id);
    await bijou.jobs.idle();
    const built = bijou.packs.lines(id)[0]!.outputs[0]!.sha256!;
    const kept = bijou.sounds.byId(ids[1]!).sourceSha256;
    const orphan = 'ab'.repeat(32);
    await mkdir(dirname(bijou.store.path(orphan)), { recursive: true });
    await writeFile(bijou.store.path(orphan), 'nobody’s');
    await writeFile(bijou.store.path(orphan, 'peaks'), 'nobody’s');
    await bijou.close();
    rmSync(bijou.store.path(built));
    // Asked for, and not carried out before the plug was pulled; one of the two is needed.
    const db = openTables(join(folder, 'bijou.db'));
    db.retention.ask(kept);
    db.retention.ask(orphan);
    db.close();

    const { bijou: again } = await freshBijou(folder);
    expect((await storedFiles(folder)).join(' ')).not.toContain(orphan);
    expect(await isWhole(again, id)).toBe(true);
    expect(again.packs.lines(id)[0]!.outputs).toMatchObject([
      { state: 'failed', sha256: null, error: { message: expect.stringContaining('not in the') } },
    ]);
    again.packs.build(id);
    await again.jobs.idle();
    expect(again.packs.lines(id)[0]!.outputs).toMatchObject([{ state: 'done', sha256: built }]);
  });

  test('pictures and working copies when they take too much room; they are made again when they are wanted', async () => {
    process.env['BIJOU_CACHE_BYTES'] = '30000';
    try {
      const {
        bijou,
        folder,
        project: id,
      } = await project({
        'a.wav': await tone(100, 20_000),
        'b.wav': await tone(200, 20_000),
        'c.wav': await tone(300, 20_000),
        'd.wav': await tone(400, 20_000),
      });
      for (const { id: soundId } of bijou.sounds.ofProject(id)) {
        bijou.packs.assign(bijou.sounds.byId(soundId), 'web-page', {});
      }
      bijou.packs.build(id);
      await bijou.jobs.idle();
      const derived = (await storedFiles(folder)).filter((name) => name.includes('.'));
      const copies = derived.filter((name) => name.endsWith('.pcm.wav'));
      expect(copies.length).toBeLessThan(2);
      for (const { outputs } of bijou.packs.lines(id)) {
        for (const { sha256 } of outputs) {
          const { samples } = await bijou.listening.ask({ sha256: sha256! }, 'pcm', {
            start: 5_000,
            frames: 100,
          });
          expect(samples).toHaveLength(100);
        }
      }
      expect(await isWhole(bijou, id)).toBe(true);
    } finally {
      delete process.env['BIJOU_CACHE_BYTES'];
    }
  });
});
