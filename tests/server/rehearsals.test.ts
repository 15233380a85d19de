import { completeBrief } from '@/core/brief/complete';
import { untouched, type SoundChoice } from '@/core/host/filter/choices';
import { encode } from '../core/files';
import { noise } from '../core/signals';
import { cleanUp, freshBijou, streamOf } from './folder';

afterAll(cleanUp);

const RATE = 44_100;

/** A project whose three sounds go to filters: the built-in one, and one of one’s own that is stereo. */
async function withFilters() {
  const { bijou } = await freshBijou();
  const project = bijou.projects.add('Skerry');
  const ids: number[] = [];
  for (const [i, name] of ['bell', 'horn', 'wind'].entries()) {
    const channels = [1, 2].map((c) => noise(RATE / 4, i * 2 + c).map((x) => x * 0.2));
    const bytes = await encode(channels, RATE, 'wav', { bits: 16 });
    const { sound } = await bijou.sounds.add(project, `${name}.wav`, streamOf(bytes), bytes.length);
    ids.push(sound.id);
  }
  await bijou.jobs.idle();
  const stereo = {
    ...{
      id: 'stereo',
      version: 1,
      title: 'Stereo',
      purpose: 'A filter.',
      notes: [],
      host: 'filter',
    },
    files: [
      { id: 'm4a', writer: 'm4a', settings: { kbps: 96 }, channels: [2], sampleRatesHz: [44_100] },
    ],
  };
  const { id: own } = bijou.ownBriefs.bringIn(project, JSON.stringify(stereo)).brief;
  const state = () => bijou.projectState(project);
  const cells = (briefId: string) =>
    state()
      .cells.filter((cell) => cell.briefId === briefId)
      .map(({ rehearsed }) => rehearsed);
  const said = (briefId: string) => state().rehearsals.find((one) => one.briefId === briefId);
  const build = async (briefs: string[]) => {
    bijou.packs.send(project, { sounds: ids, briefs });
    bijou.packs.build(project);
    await bijou.jobs.idle();
  };
  return { bijou, project, ids, own, cells, said, build };
}

test('at the end of a build each destination with a host is rehearsed, and its cells say so', async () => {
  const { bijou, project, ids, own, cells, said, build } = await withFilters();
  expect(bijou.projectState(project).rehearsals).toEqual([]);
  await build(['ar-filter', own]);
  expect(said('ar-filter')).toMatchObject({
    state: 'done',
    error: null,
    said: { host: 'filter', hostVersion: 1, accepted: true, refused: 0, first: null },
  });
  expect(cells('ar-filter')).toEqual(['', '', '']);
  expect(said(own)!.said).toMatchObject({ accepted: false, refused: 3 });
  expect(said(own)!.said!.first).toMatch(/^bell\.m4a: stereo; asked: mono\.$/);
  expect(cells(own)[1]).toMatch(/^horn\.m4a: stereo; asked: mono\.$/);

  // What is other about a sound is what nobody has rehearsed, until it is built again.
  const before = bijou.sounds.byId(ids[0]!);
  bijou.edits.change(project, () => 'Cut', [
    {
      soundId: ids[0]!,
      values: {
        recipe: {
          ...before.recipe,
          steps: [{ kind: 'keep', on: true, params: { startFrame: 0, endFrame: 9_000 } }],
        },
      },
    },
  ]);
  expect(cells('ar-filter')).toEqual([null, '', '']);
  await build(['ar-filter']);
  expect(cells('ar-filter')).toEqual(['', '', '']);
}, 60_000);

test('a destination without a host is not rehearsed; a brief that names none that there is, is refused', async () => {
  const { bijou, project, cells, build } = await withFilters();
  await build(['wav-master']);
  expect(bijou.projectState(project).rehearsals).toEqual([]);
  expect(cells('wav-master')).toEqual([null, null, null]);
  expect(() =>
    completeBrief({
      ...{ id: 'x', version: 1, title: 'X', purpose: 'X.', notes: [], host: 'moon' },
      files: [{ id: 'wav', writer: 'wav', settings: { bits: 16 } }],
    }),
  ).toThrow(expect.objectContaining({ code: 'bad-setting', field: 'host' }));
}, 60_000);

test('the news of a build carry what the host said', async () => {
  const { bijou, project, build } = await withFilters();
  const { revision } = bijou.projectState(project);
  await build(['ar-filter']);
  const news = bijou.projectNews(project, { revision });
  expect(news.cells.map(({ rehearsed }) => rehearsed)).toEqual(['', '', '']);
  expect(news.rehearsals).toHaveLength(1);
  const later = bijou.projectNews(project, { revision: news.revision });
  expect(later.cells).toEqual([]);
}, 60_000);

test('what is kept of the stage goes into the next pack, and the stage reads it there', async () => {
  const { bijou, project, build } = await withFilters();
  await build(['ar-filter']);
  const choice: SoundChoice = {
    acts: { ...untouched.acts, tap: 'startOver', mouth: 'stop' },
    ...{ fade: 0.5, isLoop: true, level: 80 },
  };
  bijou.layouts.setStage(project, 'ar-filter', {
    sounds: { 'horn.m4a': choice },
    hint: { text: 'Listen', from: 1, seconds: 2 },
  });
  const [list] = await bijou.layouts.texts(project, 'ar-filter');
  expect(list!.text).toContain(
    'horn.m4a\n  length: 0:00.250\n  a tap: starts it over\n  the mouth opens: stops it\n  fade: 0.5 s\n  loop: on\n  level: 80\n',
  );
  expect(list!.text).toContain('text: Listen\n  comes after: 1 s\n  stays for: 2 s');
  bijou.layouts.setStage(project, 'ar-filter', null);
  expect((await bijou.layouts.texts(project, 'ar-filter'))[0]!.text).not.toContain('Listen');
}, 60_000);
