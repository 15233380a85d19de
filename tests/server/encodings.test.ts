import { builtinTexts } from '@/core/brief/builtin';
import { completeBrief } from '@/core/brief/complete';
import type { BriefText } from '@/core/brief/schema';
import { encode } from '../core/files';
import { noise } from '../core/signals';
import { cleanUp, freshBijou, streamOf, unzipped } from './folder';

afterAll(cleanUp);

const master = builtinTexts.find(({ id }) => id === 'wav-master')!;
const own = (id: string, change: Partial<BriefText> = {}) =>
  completeBrief({ ...master, id, title: id, ...change });

async function withSound(briefs = [own('plain'), own('same'), own('small', { mostBytes: 1_000 })]) {
  const { bijou, folder } = await freshBijou(undefined, { briefs });
  const project = bijou.projects.add('Skerry');
  const bytes = await encode([noise(4_800, 1)], 48_000, 'wav', { bits: 16 });
  const { sound } = await bijou.sounds.add(project, 'spray.wav', streamOf(bytes), bytes.length);
  await bijou.jobs.idle();
  return { bijou, folder, project, bytes, sound: bijou.sounds.byId(sound.id) };
}

test('one file is made for all that come to the same bytes, and each brief judges it for itself', async () => {
  const { bijou, folder, project, sound } = await withSound();
  for (const id of ['plain', 'same', 'small']) bijou.packs.assign(sound, id, {});
  bijou.packs.build(project);
  expect(bijou.jobs.open(project).map(({ kind }) => kind)).toEqual(['encode']);
  await bijou.jobs.idle();
  const outputs = bijou.packs.lines(project).flatMap((line) => line.outputs);
  expect(new Set(outputs.map(({ encodingId }) => encodingId)).size).toBe(1);
  expect(outputs.map(({ state, verdict }) => [state, verdict!.accepted])).toEqual([
    ['done', true],
    ['done', true],
    ['done', false],
  ]);
  expect(outputs[2]!.verdict!.findings.filter(({ verdict }) => verdict !== 'met')).toMatchObject([
    { requirement: 'bytes', sentence: expect.stringMatching(/too large/i) },
  ]);
  expect(bijou.packs.cells(project).map(({ state }) => state)).toEqual([
    'built',
    'built',
    'failed',
  ]);
  // What its brief would not take is in no pack.
  const packed = await unzipped(bijou.packs.pack(project, null).stream);
  expect([...packed.keys()]).toEqual(['manifest.json', 'plain/spray.wav', 'same/spray.wav']);
  expect(() => bijou.packs.pack(project, 'small')).toThrow(/no finished file/);

  // The brief is asked again whenever somebody looks: with more room it takes the very file that is there.
  await bijou.close();
  const roomier = [
    own('plain'),
    own('same', { mostBytes: 1 }),
    own('small', { mostBytes: 99_000 }),
  ];
  const { bijou: again } = await freshBijou(folder, { briefs: roomier });
  expect(again.packs.cells(project).map(({ state }) => state)).toEqual([
    'built',
    'failed',
    'built',
  ]);
  again.packs.build(project);
  expect(again.jobs.open(project)).toEqual([]);
});

test('sounds of one name keep their names apart in the pack, and a new name shows at once', async () => {
  const { bijou, project, sound } = await withSound();
  const other = await encode([noise(4_800, 2)], 48_000, 'wav', { bits: 16 });
  const second = await bijou.sounds.add(project, 'Spray.wav', streamOf(other), other.length);
  await bijou.jobs.idle();
  bijou.packs.assign(sound, 'plain', {});
  bijou.packs.assign(bijou.sounds.byId(second.sound.id), 'plain', {});
  bijou.packs.build(project);
  await bijou.jobs.idle();
  const names = () =>
    bijou.packs.lines(project).flatMap(({ outputs }) => outputs.map(({ name }) => name));
  expect(names()).toEqual(['spray.wav', 'Spray-2.wav']);
  bijou.edits.edit(project, [{ soundId: sound.id, name: 'surf' }]);
  expect(names()).toEqual(['surf.wav', 'Spray.wav']);
  const id = bijou.packs.lines(project)[0]!.outputs[0]!.id;
  expect(bijou.packs.output(id)).toMatchObject({ name: 'surf.wav', mimeType: 'audio/wav' });
});

test('what two projects wait for is made for the other when one of them cancels it', async () => {
  const { bijou, project, bytes, sound } = await withSound();
  const elsewhere = bijou.projects.add('Mainland');
  const { sound: twin } = await bijou.sounds.add(elsewhere, 'x.wav', streamOf(bytes), bytes.length);
  bijou.packs.assign(sound, 'plain', {});
  bijou.packs.assign(bijou.sounds.byId(twin.id), 'plain', {});
  bijou.packs.build(project);
  bijou.packs.build(elsewhere);
  bijou.jobs.cancelAll(project);
  await bijou.jobs.idle();
  expect(bijou.packs.lines(elsewhere)[0]!.outputs).toMatchObject([{ state: 'done' }]);
  expect(bijou.packs.lines(project)[0]!.outputs).toMatchObject([{ state: 'done' }]);
});

test('a source stays while a file is to be made of it, and what nobody wants is not made', async () => {
  const { bijou, project, sound } = await withSound();
  bijou.packs.assign(sound, 'plain', {});
  bijou.packs.build(project);
  bijou.sounds.setRecipe(sound.id, {
    version: 1,
    steps: [{ kind: 'reverse', on: true, params: {} }],
  });
  // What was asked for is made as it was asked for, and is out of date.
  await bijou.jobs.idle();
  expect(bijou.packs.lines(project)[0]!.outputs).toMatchObject([
    { state: 'done', upToDate: false },
  ]);
  expect(bijou.packs.cells(project)).toMatchObject([
    { state: 'outdated', finished: 0, missing: 1 },
  ]);
  bijou.packs.build(project);
  bijou.packs.unassign(bijou.sounds.byId(sound.id), 'plain');
  await bijou.jobs.idle();
  expect(bijou.packs.cells(project)).toEqual([]);
  expect(bijou.jobs.open(project)).toEqual([]);
});
