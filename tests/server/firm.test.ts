import { join } from 'node:path';
import Database from 'better-sqlite3';
import type { Join } from '@/core/join/plan';
import { parseRaw } from '@/core/formats/raw/reader';
import { bringIn, tone } from './bringing';
import { cleanUp, freshBijou, streamOf } from './folder';

afterAll(cleanUp);

const joinOf = (...ids: number[]): Join => ({
  parts: ids.map((soundId) => ({ soundId, gapSeconds: 0 })),
  overlap: 'mix',
  rateHz: null,
  channelCount: null,
});

async function withSounds(count: number) {
  const { bijou, folder } = await freshBijou();
  const project = bijou.projects.add('Firm');
  for (let n = 0; n < count; n++)
    await bringIn(bijou, project, { [`s${n}.wav`]: await tone(100 + n, 200) });
  const ids = bijou.sounds.ofProject(project).map(({ id }) => id);
  const joined = async (...parts: number[]) => {
    const { id } = bijou.joins.create(project, 'joined', joinOf(...parts));
    await bijou.jobs.idle();
    return id;
  };
  return { bijou, folder, project, ids, joined };
}

test('a brief that is not known any more leaves its project readable', async () => {
  const { bijou, folder, project, ids } = await withSounds(2);
  bijou.packs.assign(bijou.sounds.byId(ids[0]!), 'wav-master', {});
  const db = new Database(join(folder, 'bijou.db'));
  db.prepare(`INSERT INTO assignments (soundId, briefId) VALUES (?, 'of-tomorrow')`).run(ids[1]);
  db.close();
  const [known, unknown] = bijou.packs.lines(project);
  expect(known!.obstacle).toBeNull();
  expect(unknown!.obstacle!.message).toContain('no brief "of-tomorrow"');
  bijou.packs.build(project);
  await bijou.jobs.idle();
  expect(bijou.packs.lines(project)[0]!.outputs[0]!.state).toBe('done');
  expect(() => bijou.packs.pack(project, null)).not.toThrow();
});

test('undo that would make a join a part of itself is refused in words, and nothing of it is done', async () => {
  const { bijou, project, ids, joined } = await withSounds(3);
  const [a, b, c] = ids as [number, number, number];
  const first = await joined(a, b);
  const second = await joined(first, c);
  bijou.joins.setJoin(second, joinOf(a, c));
  bijou.joins.setJoin(first, joinOf(second, b));
  await bijou.jobs.idle();
  const parts = () => [first, second].map((id) => bijou.sounds.byId(id).join);
  const before = parts();
  expect(() => bijou.edits.undoOf(second)).toThrow(/contains this sound itself/);
  expect(parts()).toEqual(before);
  // In the order of the project it can be undone.
  expect(bijou.edits.undo(project)).toContain('Change the parts');
  expect(bijou.edits.undo(project)).toContain('Change the parts');
  await bijou.jobs.idle();
  expect(bijou.sounds.byId(second).state).toBe('ready');
});

test('joins of joins of joins are looked through at once, however often each is a part', async () => {
  const { bijou, ids, joined } = await withSounds(1);
  let last = ids[0]!;
  const layers: number[] = [];
  for (let layer = 0; layer < 11; layer++) layers.push((last = await joined(last, last)));
  const began = performance.now();
  expect(() => bijou.joins.setJoin(layers[0]!, joinOf(last, ids[0]!))).toThrow(/itself/);
  expect(performance.now() - began).toBeLessThan(200);
});

test('a file that is named like a joined sound does not replace it', async () => {
  const { bijou, project, ids, joined } = await withSounds(2);
  const id = await joined(...ids);
  const { fileName } = bijou.sounds.byId(id);
  await bringIn(bijou, project, { [fileName]: await tone(900) });
  expect(bijou.intakes.summary(project)!.counts).toEqual({ added: 1 });
});

test('the same bytes described otherwise are another sound', async () => {
  const { bijou, project } = await withSounds(0);
  const bytes = Uint8Array.from({ length: 8_000 }, (_, i) => 128 + 90 * Math.sin(i / 9));
  const add = (raw: string) =>
    bijou.sounds.add(project, 'bare.raw', streamOf(bytes), bytes.length, { raw: parseRaw(raw) });
  const wide = await add('u8,8000,1');
  const slow = await add('u8,4000,2');
  expect((await add('u8,8000,1')).already).toBe(true);
  await bijou.jobs.idle();
  const facts = [wide, slow].map(({ sound }) => bijou.sounds.byId(sound.id).facts);
  expect(facts).toMatchObject([
    { frames: 8_000, sampleRateHz: 8_000, channels: 1 },
    { frames: 4_000, sampleRateHz: 4_000, channels: 2 },
  ]);
  for (const [n, { sound }] of [wide, slow].entries()) {
    const { sourceSha256 } = bijou.sounds.byId(sound.id);
    const heard = await bijou.listening.ask({ sha256: sourceSha256 }, 'pcm', {
      start: 0,
      frames: 9_000,
    });
    expect(heard.channels).toBe(n + 1);
  }
});

test('what fails for want of room is kept, says so, and is read again at the next start', async () => {
  const { bijou, folder, project } = await withSounds(1);
  const [sound] = bijou.sounds.ofProject(project);
  await bijou.close();
  const db = new Database(join(folder, 'bijou.db'));
  db.prepare('UPDATE sources SET facts = NULL').run();
  const fail = db.prepare(`UPDATE sounds SET state = 'reading', error = ?`);
  fail.run(JSON.stringify({ code: 'internal', message: 'Three times.', hint: '' }));
  db.close();
  const { bijou: again } = await freshBijou(folder);
  await again.jobs.idle();
  // What brought its process down is not tried by itself, and not refused.
  expect(again.sounds.byId(sound!.id)).toMatchObject({ state: 'reading', facts: null });
  expect(again.intakes.summary(project)!.counts).toEqual({ failed: 1 });
  again.sounds.readAgain(sound!.id);
  await again.jobs.idle();
  expect(again.sounds.byId(sound!.id)).toMatchObject({ state: 'ready', error: null });
});

test('until something of a sound is written it is the same object, and then what is so now', async () => {
  const { bijou } = await freshBijou();
  const [project, other] = ['Skerry', 'Reef'].map((name) => bijou.projects.add(name));
  await bringIn(bijou, project!, { 'a.wav': await tone(100), 'b.wav': await tone(200) });
  const first = bijou.projectState(project!);
  expect(bijou.projectState(project!).sounds[0]).toBe(first.sounds[0]);
  expect(bijou.projectState(other!).sounds).toEqual([]);
  expect(bijou.projectState(project!).sounds).toEqual(first.sounds);
  const names = () => bijou.projectState(project!).sounds.map(({ name }) => name);
  const soundId = first.sounds[0]!.id;
  bijou.edits.edit(project!, [{ soundId, name: 'gust' }]);
  expect(names()).toEqual(['gust', 'b']);
  bijou.packs.assign(bijou.sounds.byId(soundId), 'wav-master', {});
  expect(bijou.projectState(project!).cells).toMatchObject([{ soundId, state: 'convert' }]);
  bijou.packs.build(project!);
  await bijou.jobs.idle();
  expect(bijou.projectState(project!).cells).toMatchObject([{ soundId, state: 'built' }]);
  bijou.edits.edit(project!, [{ soundId, removed: true }]);
  expect(names()).toEqual(['b']);
});
