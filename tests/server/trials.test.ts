import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import Database from 'better-sqlite3';
import { parseCandidate } from '@/core/compare/candidates/text';
import { makeReference } from '@/core/compare/reference';
import type { Bijou } from '@/server/bijou';
import type { Comparison } from '@/wire';
import { encode } from '../core/files';
import { noise, sine } from '../core/signals';
import { bringIn } from './bringing';
import { cleanUp, freshBijou, storedFiles } from './folder';

afterAll(cleanUp);

const RATE = 44_100;
const CANDIDATES = ['wav/pcm@16', 'mp3@64', 'mp3@999', 'ogg/vorbis@q4'].map(parseCandidate);

async function withSounds(seconds = 0.5) {
  const { bijou, folder } = await freshBijou();
  const project = bijou.projects.add('Skerry');
  const frames = Math.round(seconds * RATE);
  await bringIn(bijou, project, {
    'tone.wav': await encode([sine(RATE, 997, frames, 0.3)], RATE, 'wav', { bits: 16 }),
    'hiss.wav': await encode([noise(frames, 2, 0.2), noise(frames, 3, 0.2)], RATE, 'wav', {
      bits: 16,
    }),
  });
  const ids = bijou.sounds.ofProject(project).map(({ id }) => id);
  return { bijou, folder, project, ids };
}

async function tried(bijou: Bijou, project: number, ids: number[]): Promise<Comparison> {
  const id = bijou.trying.begin(project, ids, CANDIDATES, 1);
  await bijou.jobs.idle();
  return bijou.comparisons.details(id);
}

test('every candidate is made, measured and timed; what cannot be says so, and the others stand', async () => {
  const { bijou, project, ids } = await withSounds();
  const run = await tried(bijou, project, ids);
  expect(run.trials.map(({ state }) => state)).toEqual(
    ids.flatMap(() => ['done', 'done', 'failed', 'done']),
  );
  expect(run.trials[2]!.error).toMatchObject({ code: 'not-legal' });
  expect(run.machine.cores).toBeGreaterThan(0);
  expect(run.workProgress).toBeNull();
  for (const { measured, isStale, changes } of run.trials.filter(({ state }) => state === 'done')) {
    const { figures, work, encodeMs } = measured!;
    expect(work!.msPerSecond.median).toBeGreaterThan(0);
    expect(work!.runs).toBeGreaterThanOrEqual(1);
    expect(encodeMs).toBeGreaterThan(0);
    expect(figures.bytes).toBeGreaterThan(1_000);
    expect({ isStale, changes }).toEqual({ isStale: false, changes: [] });
  }
  const [pcm, mp3] = run.trials;
  expect(pcm!.measured!.figures.fidelity).toMatchObject({ grade: 0, nmrDb: null });
  const details = bijou.comparisons.trialDetails(mp3!.id);
  expect(details.figures.fidelity.bands.maskDb).toHaveLength(109);
  expect(details.figures.fidelity.curve.nmrDb.length).toBeGreaterThan(10);
  expect(mp3!.measured!.figures.fidelity).not.toHaveProperty('bands');
  const nothing = { range: null, ifRange: null, ifNoneMatch: null };
  const { name, stream } = await bijou.comparisons.file(mp3!.id, nothing);
  expect(name).toBe('tone mp3@64.mp3');
  expect((await buffer(stream as never)).length).toBe(mp3!.measured!.figures.bytes);
  expect(bijou.comparisons.list(project)).toMatchObject([
    { id: run.id, soundIds: ids, trials: 8, measured: 6, failed: 2 },
  ]);
});

test('nothing is encoded twice: a conversion takes what a trial has made, and the other way round', async () => {
  const { bijou, folder, project, ids } = await withSounds();
  const set = await bijou.oneOffs.begin(project, ids, { writer: 'mp3', settings: { kbps: 64 } });
  await bijou.jobs.idle();
  const before = await storedFiles(folder);
  const run = await tried(bijou, project, ids);
  const made = bijou.oneOffs.state(set.id).files.map(({ facts }) => facts!.bytes);
  const mp3 = run.trials.filter(({ candidate }) => candidate.writer === 'mp3');
  expect(mp3.flatMap(({ measured }) => measured?.figures.bytes ?? [])).toEqual(made);
  const vorbis = await bijou.oneOffs.begin(project, ids, {
    writer: 'ogg',
    settings: { quality: 4 },
  });
  // It is there at once.
  expect(vorbis.files.map(({ state }) => state)).toEqual(['done', 'done']);
  bijou.trying.forget(run.id);
  await bijou.jobs.idle();
  const after = await storedFiles(folder);
  // What was converted stays, what only the trials wanted goes.
  expect(before.every((file) => after.includes(file))).toBe(true);
  expect(() => bijou.comparisons.details(run.id)).toThrow('not kept');
});

test('a trial whose sound was shaped is out of date, and a run of the same shows what was before', async () => {
  const { bijou, project, ids: all } = await withSounds();
  const ids = all.slice(0, 1);
  const run = await tried(bijou, project, ids);
  const steps = [{ kind: 'gain', on: true, params: { gainDb: -6 } }];
  bijou.sounds.setRecipe(ids[0]!, { version: 1, steps });
  const stale = bijou.comparisons.details(run.id).trials;
  expect(stale.filter(({ isStale }) => isStale).map(({ soundId }) => soundId)).toEqual([
    ids[0], ids[0], ids[0],
  ]); // prettier-ignore
  const id = bijou.trying.again(run.id);
  await bijou.jobs.idle();
  const { trials } = bijou.comparisons.details(id);
  expect(trials.some(({ isStale }) => isStale)).toBe(false);
  const last = trials.at(-1)!;
  const { bytes, fidelity } = run.trials.at(-1)!.measured!.figures;
  expect(last.before).toMatchObject({ comparisonId: run.id, bytes, grade: fidelity.grade });
  expect(last.before!.work!.runs).toBeGreaterThanOrEqual(1);
  bijou.trying.timeAgain(id);
  expect(bijou.comparisons.details(id).trials.at(-1)!.measured!.work).toBeNull();
  await bijou.jobs.idle();
  expect(bijou.comparisons.details(id).trials.at(-1)!.measured!.work).not.toBeNull();
});

test('what is stopped keeps what it has, and is timed when somebody asks', async () => {
  const { bijou, project, ids } = await withSounds(15);
  const id = bijou.trying.begin(project, ids, CANDIDATES, 1);
  // Somebody else waits for one of the files.
  const { id: set } = await bijou.oneOffs.begin(project, [ids[1]!], {
    ...{ writer: 'ogg', settings: { quality: 4 } },
  });
  while (!bijou.comparisons.details(id).trials.some(({ measured }) => measured)) {
    await new Promise((done) => setTimeout(done, 20));
  }
  bijou.trying.stop(id);
  await bijou.jobs.idle();
  const { trials } = bijou.comparisons.details(id);
  expect(bijou.oneOffs.state(set).files[0]!.state).toBe('done');
  expect(trials.some(({ state }) => state === 'cancelled')).toBe(true);
  const done = trials.filter(({ state }) => state === 'done');
  expect(done.length).toBeGreaterThan(0);
  expect(done.every(({ measured }) => measured!.work === null)).toBe(true);
  bijou.trying.timeAgain(id);
  await bijou.jobs.idle();
  const timed = bijou.comparisons.details(id).trials.filter(({ measured }) => measured?.work);
  expect(timed).toHaveLength(done.length);
});

test('nothing, too much and what is gone are refused or said; sets are kept under a name', async () => {
  const { bijou, project, ids } = await withSounds();
  const { trying, candidateSets } = bijou;
  expect(() => trying.begin(project, [], CANDIDATES)).toThrow('No sound');
  expect(() => trying.begin(project, ids, [])).toThrow('No candidate');
  expect(() => trying.begin(999, ids, CANDIDATES)).toThrow('no such project');
  const many = Array.from({ length: 600 }, () => CANDIDATES[0]!);
  expect(() => trying.begin(project, ids, many)).toThrow('more than 1000');
  expect(() => trying.begin(project, [12_345], CANDIDATES)).toThrow('No sound');
  candidateSets.keep(project, 'Mine', CANDIDATES);
  const [mine, ...others] = candidateSets.keep(project, 'Mine', CANDIDATES.slice(0, 1)).own;
  expect({ mine, others }).toMatchObject({ mine: { candidates: [CANDIDATES[0]] }, others: [] });
  expect(candidateSets.forget(project, Number(mine!.id)).own).toEqual([]);
});

test('a few that differ are found by listening, and why is said', async () => {
  const { bijou, project } = await withSounds(1.5);
  const wav = (name: string, seconds: number) =>
    encode(makeReference(name, { seconds, rateHz: RATE }), RATE, 'wav', { bits: 16 });
  expect((await bijou.comparisons.few(project)).map(({ why }) => why).join()).not.toContain(
    'speech',
  );
  await bringIn(bijou, project, {
    'keeper.wav': await wav('voice', 2),
    'click.wav': await wav('clicks', 1),
  });
  const named = new Map(bijou.sounds.ofProject(project).map(({ id, name }) => [id, name]));
  const picked = await bijou.comparisons.few(project);
  const found = picked.map(({ soundId, why }) => `${named.get(soundId)}: ${why}`);
  expect(found).toContainEqual(
    expect.stringMatching(/^keeper: (the longest|the most like speech)/),
  );
  expect(found).toContainEqual(expect.stringMatching(/^hiss: the noisiest/));
  expect(found).toContainEqual(expect.stringMatching(/^tone: the purest tone/));
  expect(new Set(picked.map(({ soundId }) => soundId)).size).toBe(picked.length);
  await bijou.close();
});

test('a run that a crash cut off before it was timed is timed at the next start; one that was stopped is not', async () => {
  const { bijou, folder, project, ids: all } = await withSounds();
  const ids = all.slice(0, 1);
  const [cut, stopped] = [await tried(bijou, project, ids), await tried(bijou, project, ids)];
  await bijou.close();
  // As it is between the last trial and its timing.
  const db = new Database(join(folder, 'bijou.db'));
  db.prepare('UPDATE trials SET work = NULL').run();
  db.prepare('UPDATE comparisons SET isTimingDue = (id = ?)').run(cut.id);
  db.close();
  const { bijou: again } = await freshBijou(folder);
  await again.jobs.idle();
  const timed = ({ id }: Comparison) =>
    again.comparisons.details(id).trials.filter(({ measured }) => measured?.work).length;
  expect(timed(cut)).toBe(3);
  expect(timed(stopped)).toBe(0);
});
