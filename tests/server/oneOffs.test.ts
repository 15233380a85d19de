import { buffer } from 'node:stream/consumers';
import { memorySource } from '@/core/bytes/source';
import { writers } from '@/core/formats';
import { probe } from '@/core/measure/probe';
import type { OneOffWish } from '@/core/oneOff/plan';
import type { Bijou } from '@/server/bijou';
import type { OneOffSet } from '@/wire';
import { encode } from '../core/files';
import { noise, sine } from '../core/signals';
import { bringIn } from './bringing';
import { cleanUp, freshBijou, storedFiles, unzipped } from './folder';

afterAll(cleanUp);

const RATE = 22_050;
const NOTHING_ASKED = { range: null, ifRange: null, ifNoneMatch: null };

async function withSounds() {
  const { bijou, folder } = await freshBijou();
  const project = bijou.projects.add('Skerry');
  await bringIn(bijou, project, {
    'tone.wav': await encode([sine(RATE, 300, RATE, 0.3)], RATE, 'wav', { bits: 16 }),
    'hiss.wav': await encode([noise(12 * RATE, 2, 0.2), noise(12 * RATE, 3, 0.2)], RATE, 'wav', {
      bits: 24,
    }),
  });
  const ids = bijou.sounds.ofProject(project).map(({ id }) => id);
  return { bijou, folder, project, ids };
}

async function converted(
  bijou: Bijou,
  project: number,
  ids: number[],
  wish: OneOffWish,
): Promise<OneOffSet> {
  const { id } = await bijou.oneOffs.begin(project, ids, wish);
  await bijou.jobs.idle();
  return bijou.oneOffs.state(id);
}

async function bytesOf(bijou: Bijou, id: number): Promise<Buffer> {
  const { stream } = await bijou.oneOffs.file(id, NOTHING_ASKED);
  return buffer(stream as unknown as AsyncIterable<Uint8Array>);
}

test('sounds are converted as their sources are, and nothing is sent to a destination', async () => {
  const { bijou, project, ids } = await withSounds();
  const set = await converted(bijou, project, ids, { writer: 'flac', settings: {} });
  expect(
    set.files.map(({ name, state, facts }) => [name, state, facts!.bitDepth, facts!.channels]),
  ).toEqual([
    ['tone.flac', 'done', 16, 1],
    ['hiss.flac', 'done', 24, 2],
  ]);
  expect(bijou.packs.cells(project)).toEqual([]);
  expect(bijou.projectState(project).history.undo).toBeNull();
  const { facts } = await probe(memorySource(await bytesOf(bijou, set.files[0]!.id)));
  expect(facts).toMatchObject({ container: 'flac', sampleRateHz: RATE, frames: RATE });
  const zip = bijou.oneOffs.zip(set.id);
  expect(zip.name).toBe('Skerry flac.zip');
  expect([...(await unzipped(zip.stream)).keys()]).toEqual(['tone.flac', 'hiss.flac']);
  expect(bijou.oneOffs.latest(project)!.id).toBe(set.id);
});

test('what is asked for is had, what cannot be is refused, and the others go on', async () => {
  const { bijou, project, ids } = await withSounds();
  const set = await converted(bijou, project, ids, {
    writer: 'mp3',
    settings: { kbps: 320 },
    channels: 'stereo',
  });
  expect(set.files.map(({ state, error }) => [state, error?.hint])).toEqual([
    ['failed', 'The nearest is 160 kbit/s.'],
    ['failed', 'The nearest is 160 kbit/s.'],
  ]);
  const some = await converted(bijou, project, [ids[0]!, 999, ids[1]!], {
    writer: 'ogg-opus',
    settings: { kbps: 64 },
    channels: 'mix',
  });
  expect(
    some.files.map(({ facts, changes }) => [facts!.sampleRateHz, facts!.channels, changes.length]),
  ).toEqual([
    [48_000, 1, 1],
    [48_000, 1, 1],
  ]);
  await expect(bijou.oneOffs.begin(project, [], { writer: 'wav', settings: {} })).rejects.toThrow(
    /No sound/,
  );
  await expect(bijou.oneOffs.begin(project, ids, { writer: 'tape', settings: {} })).rejects.toThrow(
    /no format/,
  );
});

test('the outlook says what will be, and which settings are legal for all', async () => {
  const { bijou, project, ids } = await withSounds();
  const { sounds, dials } = bijou.oneOffs.outlook(project, [...ids, 12_345], {
    writer: 'mp3',
    settings: {},
  });
  expect(sounds.map(({ error, changes }) => [error?.code, changes.map(({ to }) => to)])).toEqual([
    [undefined, ['160 kbit/s']],
    [undefined, ['160 kbit/s']],
    ['not-found', []],
  ]);
  expect(dials[0]!.values).toEqual([8, 16, 24, 32, 40, 48, 64, 80, 96, 112, 128, 160]);
  // Nothing is made by looking.
  expect(bijou.jobs.open(project)).toEqual([]);
  expect(bijou.oneOffs.latest(project)).toBeNull();
});

test('estimates are exact where a length decides, and of what is encoded whole', async () => {
  const { bijou, project, ids } = await withSounds();
  for (const [writer, isExact] of [
    ['wav', true],
    ['mp3', true],
    ['ogg', true],
    ['flac', true],
  ] as const) {
    const wish = { writer, settings: {} };
    const set = await converted(bijou, project, ids, wish);
    const sound = bijou.sounds.byId(ids[1]!);
    const found = await bijou.oneOffs.estimate(sound, wish);
    const made = set.files[1]!.facts!.bytes;
    expect([writer, found.isExact]).toEqual([writer, isExact]);
    expect(found.bytes).toBe(made);
  }
});

test('steps are applied unless they are left out; what would be cut off is said, and cured', async () => {
  const { bijou, project, ids } = await withSounds();
  const sound = bijou.sounds.byId(ids[0]!);
  const gain = { kind: 'gain', on: true, params: { gainDb: 20 } };
  bijou.sounds.setRecipe(sound.id, { version: 1, steps: [gain] });
  await bijou.jobs.idle();
  const over = (wish: Partial<OneOffWish>) =>
    bijou.oneOffs.outlook(project, [sound.id], { writer: 'wav', settings: {}, ...wish }).sounds[0]!
      .overDb;
  expect(over({})).toBeCloseTo(20 + 20 * Math.log10(0.3), 1);
  expect(over({ isBare: true })).toBeNull();
  expect(over({ settings: { bits: 32 } })).toBeNull();
  expect(over({ clipping: 'limit' })).toBeNull();
  const peak = async (wish: Partial<OneOffWish>) =>
    (await converted(bijou, project, [sound.id], { writer: 'wav', settings: {}, ...wish }))
      .files[0]!.facts!.truePeakDbtp!;
  expect(await peak({ clipping: 'lower' })).toBeCloseTo(-1, 1);
  expect(await peak({ isBare: true })).toBeCloseTo(20 * Math.log10(0.3), 1);
});

test('one gain for all keeps the balance of several sounds', async () => {
  const { bijou, project, ids } = await withSounds();
  const before = ids.map((id) => bijou.sounds.byId(id).facts!.truePeakDbtp!);
  const { files } = await converted(bijou, project, ids, {
    writer: 'wav',
    settings: { bits: 32 },
    together: { to: 'true-peak', target: -3 },
  });
  const after = files.map(({ facts }) => facts!.truePeakDbtp!);
  expect(Math.max(...after)).toBeCloseTo(-3, 1);
  expect(after[0]! - after[1]!).toBeCloseTo(before[0]! - before[1]!, 1);
});

test('the newest five conversions are kept, with their files; older ones go', async () => {
  const { bijou, folder, project, ids } = await withSounds();
  const made: OneOffSet[] = [];
  for (let quality = 0; quality < 7; quality++) {
    made.push(await converted(bijou, project, [ids[0]!], { writer: 'ogg', settings: { quality } }));
  }
  expect(() => bijou.oneOffs.state(made[1]!.id)).toThrow(/not there any more/);
  expect(bijou.oneOffs.state(made[2]!.id).files).toHaveLength(1);
  const hashes = (set: OneOffSet) => set.files.map(({ sha256 }) => sha256!);
  const stored = await storedFiles(folder);
  expect(stored).not.toContain(hashes(made[0]!)[0]);
  expect(stored).toContain(hashes(made[6]!)[0]);
  // What was converted before is not encoded again.
  const { id } = await bijou.oneOffs.begin(project, [ids[0]!], {
    writer: 'ogg',
    settings: { quality: 6 },
  });
  expect(bijou.oneOffs.state(id).files[0]!.state).toBe('done');
});

test('a conversion is stopped: what is finished stays', async () => {
  const { bijou, project, ids } = await withSounds();
  const { id } = await bijou.oneOffs.begin(project, ids, { writer: 'm4a', settings: {} });
  const stopped = bijou.oneOffs.stop(id);
  await bijou.jobs.idle();
  expect(stopped.files.every(({ state }) => state !== 'failed')).toBe(true);
  for (const { state } of bijou.oneOffs.state(id).files)
    expect(['done', 'cancelled']).toContain(state);
});

test('what was asked for is kept as a brief, which sounds are sent to and built for', async () => {
  const { bijou, project, ids } = await withSounds();
  const wish: OneOffWish = { writer: 'flac', settings: {}, channels: 'mix' };
  const { revision, briefsVersion } = bijou.projectState(project);
  const kept = bijou.ownBriefs.keep(project, 'Lamp room', ids, wish);
  // Other windows hear of it.
  expect(bijou.projectNews(project, { revision }).briefsVersion).not.toBe(briefsVersion);
  expect(kept).toMatchObject({
    id: 'own-lamp-room',
    title: 'Lamp room',
    files: [{ channels: [1], bitDepths: [24] }],
  });
  expect(kept.files[0]!.sampleRatesHz).toContain(RATE);
  bijou.packs.send(project, { sounds: ids, briefs: [kept.id] });
  bijou.packs.build(project);
  await bijou.jobs.idle();
  const outputs = bijou.packs.lines(project).flatMap((line) => line.outputs);
  expect(
    outputs.map(({ verdict, verification }) => [verdict!.accepted, verification!.facts.channels]),
  ).toEqual([
    [true, 1],
    [true, 1],
  ]);
  expect(await bijou.estimates.ofAssignment(bijou.sounds.byId(ids[0]!), kept.id)).toMatchObject({
    isExact: true,
    bytes: outputs[0]!.verification!.facts.bytes,
  });
  // A copy of the project has it too; it is forgotten only where nothing goes there.
  const copy = await bijou.projects.copy(project);
  expect(bijou.projectState(copy.id).briefs.at(-1)!.id).toBe('own-lamp-room');
  expect(() => bijou.ownBriefs.forget(project, kept.id)).toThrow(/2 sounds go there/);
  expect(() => bijou.ownBriefs.keep(project, 'Lamp room', ids, wish)).toThrow(/already/);
  bijou.packs.release(project, { sounds: ids, briefs: [kept.id] });
  bijou.ownBriefs.forget(project, kept.id);
  expect(bijou.projectState(project).briefs.map(({ id }) => id)).not.toContain(kept.id);
  expect(() => bijou.ownBriefs.forget(project, 'wav-master')).toThrow(/no such brief of your own/);
});

test('every format that can be converted to can be kept as a brief', async () => {
  const { bijou, project, ids } = await withSounds();
  for (const { id } of writers.filter(({ id }) => id !== 'raw' && id !== 'c')) {
    const kept = bijou.ownBriefs.keep(project, `As ${id}`, ids, { writer: id, settings: {} });
    expect(kept.files[0]!.writer).toBe(id);
  }
  // A bit rate that few rates have.
  const few = { writer: 'mp3', settings: { kbps: 320 } };
  expect(bijou.ownBriefs.keep(project, 'Loud', ids, few).files[0]!.sampleRatesHz).toEqual([
    48_000, 32_000, 44_100,
  ]);
  const none = { writer: 'mp3', settings: { kbps: 320 }, rateHz: 8_000 };
  expect(() => bijou.ownBriefs.keep(project, 'None', ids, none)).toThrow(/no rate at which/);
});
