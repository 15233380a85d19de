import type { Choices } from '@/core/brief/choices';
import type { Recipe, Step } from '@/core/recipe/types';
import type { Output } from '@/wire';
import { encode, step } from '../core/files';
import { noise, sine } from '../core/signals';
import { bringIn } from './bringing';
import { cleanUp, freshBijou } from './folder';

afterAll(cleanUp);

/** What would clip, and what cannot be measured: known before it is built, and never called right. */

const recipe = (...steps: Step[]): Recipe => ({ version: 1, steps });
const wav = (...channels: Float32Array[]) => encode(channels, 44_100, 'wav', { bits: 16 }, 16);
/** Quiet, with one loud moment: brought to −16 LUFS it lies far above full scale. */
function peaky(): Float32Array {
  const sound = sine(44_100, 500, 88_200, 0.02);
  for (let i = 0; i < 40; i++) sound[40_000 + i] = i % 2 ? -0.9 : 0.9;
  return sound;
}
const loud = step('normalise', { to: 'lufs', target: -16 });

async function withSounds(files: Record<string, Uint8Array>, ...briefs: string[]) {
  const { bijou, folder } = await freshBijou();
  const project = bijou.projects.add('Loud');
  await bringIn(bijou, project, files);
  const ids = bijou.sounds.ofProject(project).map(({ id }) => id);
  for (const brief of briefs) bijou.packs.assign(bijou.sounds.byId(ids[0]!), brief, {});
  const shape = async (id: number, ...steps: Step[]) => {
    bijou.sounds.setRecipe(id, recipe(...steps));
    await bijou.jobs.idle();
    return bijou.sounds.byId(id);
  };
  const line = () => bijou.packs.lines(project)[0]!;
  const cell = () => bijou.packs.cells(project)[0]!;
  const build = async (choices?: Choices) => {
    if (choices) bijou.packs.assign(bijou.sounds.byId(ids[0]!), briefs[0]!, choices);
    bijou.packs.build(project);
    await bijou.jobs.idle();
    return line().outputs[0]!;
  };
  return { bijou, folder, project, ids, shape, line, cell, build };
}

test('how loud a recipe makes a sound is found out in the background, and again when it changes', async () => {
  const { bijou, project, ids, shape } = await withSounds({ 'a.wav': await wav(peaky()) });
  const [id] = ids as [number];
  expect(bijou.sounds.byId(id).outcome).toBeNull();
  const changes: number[] = [];
  const unhear = bijou.listen(project, () => changes.push(bijou.sounds.byId(id).revision));
  const raised = await shape(id, loud);
  unhear();
  expect(raised.outcome!.peakDbfs).toBeGreaterThan(10);
  // Pages hear of it.
  expect(changes.at(-1)).toBe(raised.revision);
  // What surely does nothing of the kind is not read for it.
  expect((await shape(id, step('gain', { gainDb: -3 }))).outcome).toMatchObject({ peakDbfs: null });
  bijou.edits.undo(project);
  expect(bijou.sounds.byId(id).outcome).toBeNull();
  await bijou.jobs.idle();
  expect(bijou.sounds.byId(id).outcome).toEqual(raised.outcome);
  // Nobody is shown work that nobody waits for.
  bijou.sounds.setRecipe(id, recipe(loud, step('reverse')));
  expect(bijou.jobs.open(project).map(({ kind }) => kind)).toEqual(['outcome']);
  expect(bijou.projectState(project).work).toEqual([]);
});

test.each(['wav-master', 'web-page'])('a file that would clip is a decision: %s', async (brief) => {
  const { bijou, project, ids, shape, line, cell, build } = await withSounds(
    { 'a.wav': await wav(peaky()) },
    brief,
  );
  await shape(ids[0]!, loud);
  expect(cell().state).toBe('decide');
  expect(line().obstacle?.message).toMatch(/would clip/);
  expect(() => bijou.packs.build(project)).toThrow(/Nothing can be built/);

  const limited = await build({ clipping: 'limit' });
  expect(limited.verdict?.accepted).toBe(true);
  expect(limited.verification!.facts.truePeakDbtp).toBeLessThan(0);
  const lowered = await build({ clipping: 'lower' });
  const rms = ({ verification }: Output) => verification!.facts.rmsDbfs!;
  expect(rms(limited)).toBeGreaterThan(rms(lowered) + 6);
  const kept = await build({ clipping: 'keep' });
  expect([cell().state, kept.verdict?.accepted]).toEqual(['built', true]);
  expect(kept.warnings[0]).toMatchObject({ code: 'clipped', message: /dB above it/ });
});

test('what rises above full scale only when it is resampled is found out by building', async () => {
  // At a quarter of the rate between the samples: full scale here, 3 dB more in between.
  const between = Float32Array.from({ length: 44_100 }, (_, i) => ((i >> 1) % 2 ? -0.99 : 0.99));
  const files = { 'a.wav': await wav(between) };
  const lossy = await withSounds(files, 'web-stream');
  expect(lossy.line().obstacle).toBeNull();
  expect((await lossy.build()).verdict?.accepted).toBe(true);
});

test('a sound that was handed in loud and lossy is handed on as it is', async () => {
  const bytes = await encode([noise(44_100, 1, 1.4)], 44_100, 'm4a', { kbps: 96 });
  const { line, build } = await withSounds({ 'a.m4a': bytes }, 'ar-filter');
  expect(line().obstacle).toBeNull();
  const built = await build();
  expect(built.verdict?.accepted).toBe(true);
});

test('what only the codec lifts above full scale is encoded once more, as much quieter as is needed', async () => {
  const { build } = await withSounds({ 'a.wav': await wav(noise(44_100, 1, 0.98)) }, 'ar-filter');
  const first = await build();
  expect(first.verification!.facts.peakDbfs).toBeLessThanOrEqual(0);
  expect(first.verification!.facts.peakDbfs).toBeGreaterThan(-0.3);
  expect(first.verdict).toMatchObject({ accepted: true });
  expect(first.warnings).toMatchObject([
    { code: 'limited', message: /Encoded once more, [\d.]+ dB quieter: .* risen above full scale/ },
  ]);
  // Unless somebody wants it as loud as it comes.
  const kept = await build({ clipping: 'keep' });
  expect(kept.verification!.facts.peakDbfs).toBeGreaterThan(0.1);
  expect(kept.warnings).toMatchObject([{ code: 'overshoot', message: /A gain of −[\d.]+ dB/ }]);
});

test('a level that the mixdown changed is said with its figure, until it is normalised behind it', async () => {
  const sides = [noise(44_100, 1, 0.5), noise(44_100, 2, 0.4)];
  const { ids, shape, build } = await withSounds({ 'a.wav': await wav(...sides) }, 'pocket-toy');
  await shape(ids[0]!, step('normalise', { to: 'true-peak', target: -1 }));
  expect((await build()).remark).toMatch(/^Its level is −[\d.]+ dBTP, not −1/);
  const behind = await build({ levelBehind: true });
  expect(behind.remark).toBeNull();
  expect(behind.verification!.facts.truePeakDbtp).toBeCloseTo(-1, 1);
});

test('a step that finds nothing to measure is a problem of the sound at once', async () => {
  const { bijou, ids, shape, line } = await withSounds(
    { 'tick.wav': await wav(noise(4_000, 1, 0.3)) },
    'wav-master',
  );
  const refused = await shape(ids[0]!, loud);
  expect(refused.recipeProblem?.message).toMatch(/too short to have a loudness/);
  expect(line().obstacle).toEqual(refused.recipeProblem);
  const otherwise = step('normalise', { to: 'lufs', target: -16, otherwise: 'momentary' });
  const taken = await shape(ids[0]!, otherwise);
  expect(taken.recipeProblem).toBeNull();
  expect(taken.outcome!.notes).toMatchObject([{ code: 'otherwise' }]);
  expect(bijou.sounds.byId(ids[0]!).outcome!.peakDbfs).not.toBeNull();
});

test('of many sounds those that cannot be measured keep what they had', async () => {
  const half = new Float32Array(88_200);
  half.set(noise(44_100, 3, 0.2));
  const { bijou, project, ids } = await withSounds({
    'long.wav': await wav(noise(60_000, 1, 0.2)),
    'tick.wav': await wav(noise(4_000, 2, 0.2)),
    'half.wav': await wav(half),
    'none.wav': await wav(new Float32Array(60_000)),
  });
  const [, tick, halfSilent] = ids as [number, number, number, number];
  const kept = step('keep', { startFrame: 50_000, endFrame: 88_000 });
  bijou.sounds.setRecipe(halfSilent, recipe(kept));
  const how = { rateHz: 44_100, mode: 'behind' as const };
  const refusing = { to: 'lufs', target: -16 };
  const applied = await bijou.shaping.apply(project, ids, {
    recipe: recipe(step('normalise', refusing)),
    ...how,
  });
  expect([applied.changed, applied.failed.map(({ name }) => name)]).toEqual([
    1,
    ['tick', 'half', 'none'],
  ]);
  expect(bijou.sounds.byId(tick).recipe.steps).toEqual([]);
  expect(bijou.sounds.byId(halfSilent).recipe.steps).toEqual([kept]);
  const forAll = await bijou.shaping.apply(project, ids, {
    recipe: recipe(step('normalise', { ...refusing, otherwise: 'momentary' })),
    ...how,
  });
  expect([forAll.changed, forAll.failed]).toEqual([4, []]);
  await bijou.jobs.idle();
  expect(bijou.sounds.ofProject(project).map(({ recipeProblem }) => recipeProblem?.code)).toEqual([
    undefined,
    undefined,
    undefined,
    undefined,
  ]);
});
