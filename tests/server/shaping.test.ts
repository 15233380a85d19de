import { readFile } from 'node:fs/promises';
import { memorySource } from '@/core/bytes/source';
import { convert } from '@/core/convert';
import { MemorySink } from '@/core/bytes/source';
import type { Recipe, Step } from '@/core/recipe/types';
import { decode, encode, step } from '../core/files';
import { everyStep } from '../core/everyStep';
import { noise, sine } from '../core/signals';
import { bringIn, tone } from './bringing';
import { cleanUp, freshBijou } from './folder';

afterAll(cleanUp);

const recipe = (...steps: Step[]): Recipe => ({ version: 1, steps });
const stereoFile = (frames: number, rateHz = 8_000) =>
  encode([noise(frames, 1, 0.3), sine(rateHz, 300, frames, 0.2)], rateHz, 'wav', { bits: 16 });

async function withSounds(files: Record<string, Uint8Array>) {
  const { bijou, folder } = await freshBijou();
  const project = bijou.projects.add('Test');
  await bringIn(bijou, project, files);
  const sounds = bijou.sounds.ofProject(project);
  return { bijou, folder, project, sounds, ids: sounds.map(({ id }) => id) };
}

/** What a build makes of a sound before encoding. */
async function built(bytes: Uint8Array, of: Recipe): Promise<Float32Array[]> {
  const sink = new MemorySink();
  await convert(memorySource(bytes), { recipe: of, writer: 'wav', settings: { bits: 32 } }, sink);
  return (await decode(sink.bytes())).channels;
}

test('what is heard as a preview is what is built, bit for bit, for every kind of step', async () => {
  const bytes = await stereoFile(6_000);
  const { bijou, sounds } = await withSounds({ 'a.wav': bytes });
  const long = recipe(
    step('keep', { startFrame: 500, endFrame: 5_900 }),
    step('cut', { startFrame: 1_000, endFrame: 1_500, crossfadeFrames: 40 }),
    step('offset'),
    step('fade-out', { frames: 700, shape: 'exponential' }),
    step('speed', { factor: 0.93 }),
    step('normalise', { to: 'true-peak', target: -1 }),
  );
  for (const of of [...everyStep.map((one) => recipe(one)), long]) {
    const channels = await built(bytes, of);
    const frames = channels[0]!.length;
    // In spans, as a player asks, not in one go.
    const listened = { sha256: sounds[0]!.sourceSha256, recipe: of };
    for (const [start, count] of [
      [0, 400],
      [frames - 300, 300],
      [1_234, 1_000],
    ] as const) {
      const { samples, channels: width } = await bijou.listening.ask(listened, 'pcm', {
        start: start,
        frames: count,
      });
      for (let c = 0; c < width; c++) {
        const heard = samples.filter((_, i) => i % width === c);
        expect(heard).toEqual(channels[c]!.slice(start, start + count));
      }
    }
  }
});

test('levels, pictures, spectrogram, silence and clicks behind a recipe', async () => {
  const clicked = sine(8_000, 200, 12_000, 0.4);
  for (const at of [3_000, 9_000]) clicked[at]! += 0.5;
  const late = Float32Array.from([...new Float32Array(4_000), ...sine(8_000, 200, 8_000, 0.4)]);
  const { bijou, sounds } = await withSounds({
    'clicked.wav': await encode([clicked], 8_000, 'wav', { bits: 24 }),
    'late.wav': await encode([late], 8_000, 'wav', { bits: 24 }),
  });
  const [a, b] = sounds.map(({ sourceSha256 }) => sourceSha256) as [string, string];
  const quieter = recipe(
    step('gain', { gainDb: -6 }),
    step('keep', { startFrame: 0, endFrame: 8_000 }),
  );
  const levels = await bijou.listening.ask({ sha256: b, recipe: quieter }, 'levels', {
    isThorough: true,
  });
  expect(levels).toMatchObject({ frames: 8_000, rateHz: 8_000, channelCount: 1 });
  expect(levels.peakDbfs).toBeCloseTo(-13.96, 1);
  expect(levels.truePeakDbtp).toBeGreaterThanOrEqual(levels.peakDbfs!);
  const whole = await bijou.listening.ask({ sha256: b, recipe: quieter }, 'peaks', {
    start: 0,
    end: 8_000,
    columns: 4,
  });
  expect(whole[0]).toBeCloseTo(0, 5);
  expect(whole[3 * 3 + 1]).toBeCloseTo(0.2, 2);
  expect(
    await bijou.listening.ask({ sha256: b, recipe: quieter }, 'sounding', {
      thresholdDb: -60,
      leastSilenceSeconds: 0.3,
    }),
  ).toEqual([{ startFrame: 4_001, endFrame: 8_000 }]);
  const span = { startFrame: 0, endFrame: 8_000 };
  const picture = await bijou.listening.ask({ sha256: b }, 'spectrogram', {
    ...span,
    columns: 8,
    rows: 32,
  });
  expect(picture.length).toBe(256);
  expect(Math.max(...picture.subarray(0, 64))).toBe(0);
  const clicks = await bijou.listening.ask(
    { sha256: a, recipe: recipe(step('declick')) },
    'clicks',
    {},
  );
  expect(clicks.map(({ startFrame }) => Math.round(startFrame / 1_000))).toEqual([3, 9]);
  await expect(bijou.listening.ask({ sha256: a, recipe: quieter }, 'clicks', {})).rejects.toThrow(
    /does not end/,
  );
  const crossing = await bijou.listening.ask({ sha256: b }, 'crossing', {
    frame: 5_000,
    direction: 1,
  });
  expect(crossing.frame).toBeGreaterThan(5_000);
  const silent = recipe(
    step('blank', { startFrame: 0, endFrame: 12_000 }),
    step('normalise', { to: 'peak', target: -1 }),
  );
  await expect(
    bijou.listening.ask({ sha256: b, recipe: silent }, 'levels', { isThorough: false }),
  ).rejects.toThrow(/silent/);
});

describe('undoing one sound', () => {
  test('leaves others as they are, in any order, across a restart; the bytes are as before', async () => {
    const bytes = await stereoFile(4_000);
    const { bijou, folder, project, ids } = await withSounds({
      'a.wav': bytes,
      'b.wav': await tone(500),
    });
    const [a, b] = ids as [number, number];
    const hear = async (of: typeof bijou) => {
      const { sourceSha256, recipe: own } = of.sounds.byId(a);
      return (
        await of.listening.ask({ sha256: sourceSha256, recipe: own }, 'pcm', {
          start: 0,
          frames: 9_000,
        })
      ).samples;
    };
    const original = await hear(bijou);
    bijou.sounds.setRecipe(a, recipe(step('reverse')));
    const reversed = await hear(bijou);
    bijou.sounds.setRecipe(b, recipe(step('gain', { gainDb: -1 })));
    bijou.sounds.setRecipe(a, recipe(step('reverse'), step('gain', { gainDb: -6 })));
    bijou.sounds.setRecipe(b, recipe());
    expect(bijou.edits.historyOf(a).map(({ title, undone }) => [title, undone])).toEqual([
      ['Add reverse on “a”', false],
      ['Add gain on “a”', false],
    ]);
    expect(bijou.edits.undoOf(a)).toBe('Add gain on “a”');
    expect(await hear(bijou)).toEqual(reversed);
    expect(bijou.edits.undoOf(a)).toBe('Add reverse on “a”');
    expect(bijou.edits.undoOf(a)).toBeNull();
    expect(await hear(bijou)).toEqual(original);
    expect(bijou.sounds.byId(b).recipe.steps).toEqual([]);
    await bijou.close();
    const { bijou: again } = await freshBijou(folder);
    // What came after on another sound does not stand in the way of doing it again here …
    expect(again.edits.redoOf(a)).toBe('Add reverse on “a”');
    expect(await hear(again)).toEqual(reversed);
    // … but the project as a whole only goes on from its last change.
    expect(again.edits.history(project)).toMatchObject({
      undo: { title: 'Take out gain on “b”' },
      redo: null,
    });
  });

  test('takes one sound out of a change of many; the rest is undone with the project', async () => {
    const { bijou, project, ids } = await withSounds({
      'a.wav': await tone(400),
      'b.wav': await tone(500),
    });
    const [a, b] = ids as [number, number];
    bijou.edits.edit(
      project,
      ids.map((soundId) => ({ soundId, group: 'sea' })),
    );
    bijou.edits.undoOf(a);
    expect([a, b].map((id) => bijou.sounds.byId(id).group)).toEqual(['', 'sea']);
    expect(bijou.edits.history(project).undo?.title).toBe('Group 2 sounds');
    bijou.edits.undo(project);
    expect(bijou.sounds.byId(b).group).toBe('');
    bijou.edits.redo(project);
    expect([a, b].map((id) => bijou.sounds.byId(id).group)).toEqual(['sea', 'sea']);
  });

  test('goes to any place of its history and back; a new change ends what was undone', async () => {
    const { bijou, ids } = await withSounds({ 'a.wav': await tone(400) });
    const [a] = ids as [number];
    for (const gainDb of [-1, -2, -3]) bijou.sounds.setRecipe(a, recipe(step('gain', { gainDb })));
    const gain = () => bijou.sounds.byId(a).recipe.steps[0]?.params['gainDb'];
    const [first, , third] = bijou.edits.historyOf(a);
    bijou.edits.goTo(a, first!.id);
    expect(gain()).toBe(-1);
    bijou.edits.goTo(a, third!.id);
    expect(gain()).toBe(-3);
    bijou.edits.goTo(a, 0);
    expect(gain()).toBeUndefined();
    expect(() => bijou.edits.goTo(a, 12_345)).toThrow(/not in the history/);
    bijou.sounds.setRecipe(a, recipe(step('reverse')));
    expect(bijou.edits.historyOf(a)).toHaveLength(1);
  });
});

describe('recipes that cannot be done', () => {
  test('a new step that leaves nothing is refused; an old one that lost its place is kept and stops the build', async () => {
    const { bijou, project, sounds } = await withSounds({ 'a.wav': await tone(400, 4_000) });
    const [sound] = sounds;
    const cutAll = step('cut', { startFrame: 0, endFrame: 4_000 });
    expect(() => bijou.sounds.setRecipe(sound!.id, recipe(cutAll))).toThrow(/whole sound/);
    const late = step('cut', { startFrame: 3_000, endFrame: 3_500 });
    bijou.sounds.setRecipe(sound!.id, recipe(late));
    const short = step('keep', { startFrame: 0, endFrame: 1_000 });
    const kept = bijou.sounds.setRecipe(sound!.id, recipe(short, late));
    expect(kept.recipe.steps).toEqual([short, late]);
    expect(kept.recipeProblem!.message).toMatch(/ends at frame 3,500/);
    bijou.packs.assign(kept, 'web-page', {});
    expect(() => bijou.packs.build(project)).toThrow(/Nothing can be built yet/);
    expect(bijou.packs.lines(project)[0]!.obstacle!.message).toMatch(/3,500/);
  });

  test('a step of a newer Bijou is kept and stops the build with a clear word', async () => {
    const { bijou, project, sounds } = await withSounds({ 'a.wav': await tone(400, 4_000) });
    const sparkle = step('sparkle', { much: true });
    const kept = bijou.sounds.setRecipe(sounds[0]!.id, recipe(sparkle));
    expect(kept.recipe.steps).toEqual([sparkle]);
    bijou.packs.assign(kept, 'web-page', {});
    expect(bijou.packs.lines(project)[0]!.obstacle!.message).toMatch(/does not know/);
  });
});

describe('many at once', () => {
  test('one change for all that can take it, at their own rates; the others are named', async () => {
    const { bijou, project, ids } = await withSounds({
      'slow.wav': await encode([noise(4_000)], 8_000, 'wav', { bits: 16 }),
      'fast.wav': await encode([noise(24_000)], 48_000, 'wav', { bits: 16 }),
      'tick.wav': await encode([noise(40)], 8_000, 'wav', { bits: 16 }),
    });
    const fades = recipe(
      step('fade-in', { frames: 480, shape: 's' }),
      step('gain', { gainDb: -1 }),
    );
    const applied = await bijou.shaping.apply(project, ids, {
      recipe: fades,
      rateHz: 48_000,
      mode: 'behind',
      name: 'soft start',
    });
    expect(applied).toMatchObject({
      changed: 2,
      failed: [{ soundId: ids[2], name: 'tick', message: expect.stringContaining('longer') }],
    });
    const frames = ids.map((id) => bijou.sounds.byId(id).recipe.steps[0]?.params['frames']);
    expect(frames).toEqual([80, 480, undefined]);
    expect(bijou.edits.history(project).undo?.title).toBe('Apply “soft start” to 2 sounds');
    await bijou.shaping.apply(project, ids, { recipe: recipe(), rateHz: 48_000, mode: 'instead' });
    expect(bijou.sounds.byId(ids[0]!).recipe.steps).toEqual([]);
    await expect(
      bijou.shaping.apply(project, ids, { recipe: recipe(), rateHz: 48_000, mode: 'behind' }),
    ).rejects.toThrow(/no steps/);
  });

  test('recipes under a name: saved for every project, replaced, forgotten', async () => {
    const { bijou } = await freshBijou();
    bijou.shaping.save('Stems', recipe(step('reverse')), 48_000);
    const [one, ...more] = bijou.shaping.save('stems', recipe(step('offset')), 44_100);
    expect(more).toEqual([]);
    expect(one).toMatchObject({ name: 'Stems', rateHz: 44_100, recipe: recipe(step('offset')) });
    expect(bijou.shaping.forget(one!.id)).toEqual([]);
    expect(() => bijou.shaping.forget(one!.id)).toThrow(/not there/);
    expect(() => bijou.shaping.save('none', recipe(), 48_000)).toThrow(/no steps/);
  });
});

test('splitting gives every channel a sound of its own behind the recipe; it can be undone', async () => {
  const bytes = await stereoFile(3_000);
  const { bijou, project, ids } = await withSounds({ 'duo.wav': bytes });
  bijou.sounds.setRecipe(ids[0]!, recipe(step('keep', { startFrame: 0, endFrame: 1_000 })));
  const halves = bijou.sounds.split(ids[0]!);
  expect(halves.map(({ name }) => name)).toEqual(['duo L', 'duo R']);
  const { channels } = await decode(bytes);
  for (const [c, { sourceSha256, recipe: own }] of halves.entries()) {
    const heard = await bijou.listening.ask({ sha256: sourceSha256, recipe: own }, 'pcm', {
      start: 0,
      frames: 2_000,
    });
    expect(heard.samples).toEqual(channels[c]!.slice(0, 1_000));
  }
  expect(bijou.sounds.copy(halves[0]!.id).name).toBe('duo L copy');
  expect(() => bijou.sounds.split(halves[0]!.id)).toThrow(/only one channel/);
  expect(bijou.edits.undo(project)).toBe('Copy “duo L”');
  expect(bijou.edits.undo(project)).toBe('Split “duo”');
  expect(bijou.sounds.ofProject(project).map(({ name }) => name)).toEqual(['duo']);
});

test('an original is never touched, whatever is done with it', async () => {
  const bytes = await stereoFile(3_000);
  const { bijou, sounds } = await withSounds({ 'a.wav': bytes });
  for (const one of everyStep) bijou.sounds.setRecipe(sounds[0]!.id, recipe(one));
  expect(new Uint8Array(await readFile(bijou.store.path(sounds[0]!.sourceSha256)))).toEqual(bytes);
});
