import { builtinTexts } from '@/core/brief/builtin';
import { briefTextOf } from '@/core/brief/edit';
import { encode } from '../core/files';
import { noise, sine } from '../core/signals';
import { madeVoice } from '@/core/compare/reference/voice';
import { cleanUp, freshBijou, storedFiles, streamOf, unzipped } from './folder';

afterAll(cleanUp);

const RATE = 44_100;

async function withSound(channels = 1) {
  const { bijou, folder } = await freshBijou();
  const project = bijou.projects.add('Skerry');
  const bytes = await encode(
    Array.from({ length: channels }, (_, c) => noise(RATE, c + 1).map((x) => x * 0.2)),
    RATE,
    'wav',
    { bits: 16 },
  );
  const { sound } = await bijou.sounds.add(project, 'spray.wav', streamOf(bytes), bytes.length);
  await bijou.jobs.idle();
  return { bijou, folder, project, id: sound.id, sound: () => bijou.sounds.byId(sound.id) };
}
type Opened = Awaited<ReturnType<typeof withSound>>['bijou'];
const only = (bijou: Opened, project: number) => bijou.packs.cells(project)[0]!;

describe('briefs of one’s own', () => {
  test('are copied, edited as their next version, shared and brought in; what they say is planned anew', async () => {
    const { bijou, project, sound } = await withSound();
    const copy = bijou.ownBriefs.copy(project, 'web-single');
    expect(copy).toMatchObject({ id: 'own-web-page-one-format-2', version: 1 });
    bijou.packs.assign(sound(), copy.id, {});
    bijou.packs.build(project);
    await bijou.jobs.idle();
    expect(only(bijou, project)).toMatchObject({ state: 'built', missing: 0 });
    const { revision } = only(bijou, project);
    const text = { ...briefTextOf(copy), title: 'Small page' };
    text.files[0]!.settings = { kbps: 64 };
    const edited = bijou.ownBriefs.edit(project, copy.id, JSON.stringify(text));
    expect(edited).toMatchObject({ id: copy.id, version: 2, title: 'Small page' });
    expect(only(bijou, project)).toMatchObject({ state: 'outdated', missing: 1 });
    expect(only(bijou, project).revision).toBeGreaterThan(revision);
    // It waits for its sounds, and for nobody who does not know what it is.
    expect(() => bijou.ownBriefs.forget(project, copy.id)).toThrow(/1 sound goes there/);
    bijou.packs.unassign(sound(), copy.id);
    bijou.ownBriefs.forget(project, copy.id);
    expect(() => bijou.ownBriefs.forget(project, copy.id)).toThrow(/no such brief of your own/);
    const back = bijou.ownBriefs.bringIn(project, JSON.stringify({ ...text, shine: 1 }));
    expect(back).toMatchObject({ brief: { title: 'Small page' }, unknown: ['shine'] });
    const again = bijou.ownBriefs.bringIn(project, JSON.stringify(text));
    expect(again.brief.title).toBe('Small page, 2');
    expect(again.brief.id).not.toBe(back.brief.id);
  });

  test('what is wrong in them is refused and nothing changes; those of Bijou stay as they are', async () => {
    const { bijou, project } = await withSound();
    const copy = bijou.ownBriefs.copy(project, 'game-mod');
    const wrong = { ...briefTextOf(copy), names: { characters: 'A-Z', case: 'lower' } };
    expect(() => bijou.ownBriefs.edit(project, copy.id, JSON.stringify(wrong))).toThrow(
      expect.objectContaining({ field: 'names.characters' }),
    );
    expect(bijou.briefsOf(project).find(({ id }) => id === copy.id)).toMatchObject({ version: 1 });
    expect(() =>
      bijou.ownBriefs.edit(project, 'game-mod', JSON.stringify(builtinTexts[0])),
    ).toThrow(/no such brief of your own/);
    const taken = { ...briefTextOf(copy), title: 'Game mod' };
    expect(() => bijou.ownBriefs.edit(project, copy.id, JSON.stringify(taken))).toThrow(/already/);
  });

  test('one is begun from a file that works, and takes just that file', async () => {
    const { bijou, project } = await withSound();
    const works = await encode([sine(22_050, 300, 22_050, 0.4)], 22_050, 'mp3', { kbps: 48 });
    const shown = () => ({ fileName: 'good.MP3', stream: streamOf(works), bytes: works.length });
    const brief = await bijou.doctor.beginBrief(project, shown());
    expect(brief.files).toMatchObject([
      {
        writer: 'mp3',
        settings: { kbps: 48 },
        sampleRatesHz: [22_050],
        channels: [1],
        isConstant: true,
        ending: 'MP3',
      },
    ]);
    const { verdicts } = await bijou.doctor.examine(project, shown());
    expect(verdicts.find(({ briefId }) => briefId === brief.id)).toMatchObject({ accepted: true });
  });
});

describe('the doctor', () => {
  test('says who would take a file, and why others would not; keeps nothing of it', async () => {
    const { bijou, folder, project } = await withSound();
    const before = await storedFiles(folder);
    const ogg = await encode([noise(RATE, 3).map((x) => x * 0.2)], RATE, 'ogg', { quality: 2 });
    const found = await bijou.doctor.examine(project, {
      fileName: 'Gull.mp3',
      stream: streamOf(ogg),
      bytes: ogg.length,
    });
    expect(found.misnamed).toMatch(/says MP3, but inside it is Ogg with Vorbis/);
    const verdict = (id: string) => found.verdicts.find(({ briefId }) => briefId === id)!;
    expect(verdict('web-page').accepted).toBe(true);
    const mod = verdict('game-mod');
    expect(mod.findings.filter((one) => one.verdict !== 'met')).toMatchObject([
      { requirement: 'name', sentence: '“Gull.mp3” has a capital letter.' },
    ]);
    expect(found.rateDoubt).toBeNull();
    const voice = await encode([madeVoice(22_050, 6 * 22_050, 90, 1.05)], 44_100, 'wav', {
      bits: 16,
    });
    const shown = { fileName: 'x.wav', stream: streamOf(voice), bytes: voice.length };
    const { rateDoubt } = await bijou.doctor.examine(project, shown);
    expect(rateDoubt).toMatchObject({ labelledHz: 44_100, likelyHz: 22_050 });
    expect(await storedFiles(folder)).toEqual(before);
    expect(bijou.projectState(project).sounds).toHaveLength(1);
  });

  test('cures it: brought in, sent, converted; relabelled where it is labelled wrong', async () => {
    const { bijou, project } = await withSound();
    const wav = await encode([sine(RATE, 300, RATE, 0.3)], RATE, 'wav', { bits: 16 });
    const shown = { fileName: 'Bell.wav', stream: streamOf(wav), bytes: wav.length };
    const { id } = await bijou.doctor.cure(project, shown, 'ar-filter', 22_050);
    await bijou.jobs.idle();
    const [line] = bijou.packs.linesOfSounds(project, [id]);
    bijou.packs.build(project, [line!.assignment.id]);
    await bijou.jobs.idle();
    const [built] = bijou.packs.linesOfSounds(project, [id]);
    expect(built!.outputs[0]).toMatchObject({ verdict: { accepted: true } });
    // Half the rate is twice the length.
    expect(built!.outputs[0]!.verification!.facts.seconds).toBeCloseTo(2, 2);
    const broken = { fileName: 'x.wav', stream: streamOf(Buffer.from('no sound')), bytes: 8 };
    await expect(bijou.doctor.examine(project, broken)).rejects.toMatchObject({
      code: 'not-audio',
    });
    const nowhere = { fileName: 'x.wav', stream: streamOf(wav), bytes: wav.length };
    await expect(bijou.doctor.cure(project, nowhere, 'nobody', null)).rejects.toThrow(/no brief/);
  });
});

describe('builds', () => {
  test('are kept with their names and bytes, compared, and had again', async () => {
    const { bijou, project, id, sound } = await withSound();
    bijou.packs.assign(sound(), 'game-mod', {});
    const first = bijou.packs.build(project);
    await bijou.jobs.idle();
    bijou.edits.edit(project, [{ soundId: id, name: 'Sea spray' }]);
    bijou.packs.assign(sound(), 'game-mod', { settings: { ogg: { quality: 1 } } });
    const second = bijou.packs.build(project);
    await bijou.jobs.idle();
    expect(bijou.builds.list(project).map((one) => one.id)).toEqual([second, first]);
    const [old, now] = [first, second].map((one) => bijou.builds.details(project, one));
    expect(old!.outputs.map(({ path }) => path)).toEqual(['game-mod/spray.ogg']);
    expect(now!.outputs.map(({ path }) => path)).toEqual(['game-mod/sea_spray.ogg']);
    expect(now!.outputs[0]!.bytes).toBeLessThan(old!.outputs[0]!.bytes!);
    const zip = await unzipped(bijou.builds.zip(project, first).stream);
    expect([...zip.keys()]).toEqual(['game-mod/spray.ogg']);
    expect(zip.get('game-mod/spray.ogg')!.length).toBe(old!.outputs[0]!.bytes);
    expect(() => bijou.builds.details(project + 1, first)).toThrow(/not kept/);
  });

  test('so many; of older ones only what is still the newest of its file stays', async () => {
    const { bijou, project, sound } = await withSound();
    for (let n = 0; n < 23; n++) {
      bijou.packs.assign(sound(), 'wav-master', { seconds: 0.1 + n / 100 });
      bijou.packs.build(project);
      await bijou.jobs.idle();
    }
    expect(bijou.builds.list(project)).toHaveLength(20);
    bijou.packs.unassign(sound(), 'wav-master');
    expect(bijou.builds.list(project)).toHaveLength(20);
  });
});

describe('what is too big', () => {
  test('is told by how much, with what would fit; each can be made to be heard, and is enough once taken', async () => {
    const { bijou, project, id, sound } = await withSound(2);
    const copy = bijou.ownBriefs.copy(project, 'web-single');
    const text = { ...briefTextOf(copy), mostBytes: 10_000 };
    text.files[0]!.channels = [2, 1];
    bijou.ownBriefs.edit(project, copy.id, JSON.stringify(text));
    bijou.packs.assign(sound(), copy.id, {});
    bijou.packs.build(project);
    await bijou.jobs.idle();
    expect(only(bijou, project).state).toBe('failed');
    const remedies = await bijou.fitting.remedies(sound(), copy.id);
    expect(remedies.map(({ label, fits }) => [label, fits])).toEqual([
      ['64 kbit/s', true],
      // A constant bit rate is none the smaller for it.
      ['mono', false],
      [expect.stringMatching(/^the first 0\.[34]\d* s$/), true],
    ]);
    for (const { choices, fileId, bytes } of remedies.filter(({ fits }) => fits)) {
      const tryout = bijou.fitting.tryOut(sound(), copy.id, fileId, choices);
      await bijou.jobs.idle();
      expect(bijou.fitting.tryout(tryout).facts!.bytes).toBe(bytes);
      bijou.packs.assign(bijou.sounds.byId(id), copy.id, choices);
      bijou.packs.build(project);
      await bijou.jobs.idle();
      expect(only(bijou, project).state).toBe('built');
    }
  });
});

test('a lossy file that decodes above its ceiling is encoded again, quieter, and that is said', async () => {
  const { bijou, project } = await withSound();
  const copy = bijou.ownBriefs.copy(project, 'game-mod');
  const text = { ...briefTextOf(copy), level: { peakDbtp: -1 } };
  text.files[0]!.settings = { quality: -1 };
  bijou.ownBriefs.edit(project, copy.id, JSON.stringify(text));
  // Bursts of noise at the ceiling: what a coarse codec gives back rises above it.
  const loud = noise(2 * RATE, 9).map((x, i) => (i % 8_000 < 2_000 ? x * 0.88 : 0));
  const bytes = await encode([loud], RATE, 'wav', { bits: 16 });
  const { sound } = await bijou.sounds.add(project, 'burst.wav', streamOf(bytes), bytes.length);
  await bijou.jobs.idle();
  bijou.packs.assign(bijou.sounds.byId(sound.id), copy.id, {});
  bijou.packs.build(project);
  await bijou.jobs.idle();
  const [{ outputs }] = bijou.packs.linesOfSounds(project, [sound.id]) as [
    ReturnType<typeof bijou.packs.lines>[number],
  ];
  expect(outputs[0]!.verdict!.accepted).toBe(true);
  expect(outputs[0]!.verification!.facts.truePeakDbtp).toBeLessThanOrEqual(-1);
  expect(outputs[0]!.warnings.map(({ message }) => message).join()).toMatch(/Encoded once more/);
});

test('a line waits for its language, then goes to the folder of it; saying which is undone', async () => {
  const { bijou, project, id, sound } = await withSound();
  const copy = bijou.ownBriefs.copy(project, 'game-mod');
  const text = { ...briefTextOf(copy), languages: ['en', 'de'], folder: 'lines/{language}' };
  bijou.ownBriefs.edit(project, copy.id, JSON.stringify(text));
  bijou.packs.assign(sound(), copy.id, {});
  expect(only(bijou, project).state).toBe('decide');
  bijou.edits.edit(project, [{ soundId: id, language: 'de' }]);
  expect(only(bijou, project).state).toBe('convert');
  expect(bijou.packs.lines(project)[0]!.plans[0]!.path).toBe('lines/de/spray.ogg');
  expect(bijou.edits.undo(project)).toMatch(/language/);
  expect(sound().language).toBeNull();
  bijou.edits.edit(project, [{ soundId: id, language: 'fr' }]);
  expect(only(bijou, project).state).toBe('cannot');
});
