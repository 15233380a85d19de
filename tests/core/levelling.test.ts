import fc from 'fast-check';
import { needOf } from '@/core/brief/needs';
import { levelRemark } from '@/core/brief/levels';
import { briefById } from '@/core/brief/catalogue';
import { builtinBriefs } from '@/core/brief/builtin';
import type { Choices } from '@/core/brief/choices';
import type { Warning } from '@/core/formats/types';
import { collectChannels } from '@/core/pcm/pcm';
import { sourceFromChannels, streamOf } from '@/core/pcm/source';
import { hasToBeRead, readOutcome, type Outcome } from '@/core/recipe/outcome';
import { applyRecipe, parseRecipe, peakAtMost } from '@/core/recipe/recipe';
import { peakCures } from '@/core/recipe/peakCures';
import { stepKinds } from '@/core/recipe/steps';
import type { Recipe, Step } from '@/core/recipe/types';
import { LevelMeter } from '@/core/measure/level';
import { memorySource } from '@/core/bytes/source';
import { probe } from '@/core/measure/probe';
import { ebur128 } from '../../tools/bench/ebur128';
import { everyStep } from './everyStep';
import { encode, step } from './files';
import { noise, sine } from './signals';

const recipe = (...steps: Step[]): Recipe => ({ version: 1, steps });
const kind = (name: string) => stepKinds.find((one) => one.kind === name)!;

async function through(sound: Float32Array[], rateHz: number, ...steps: Step[]) {
  const notes: Warning[] = [];
  const source = sourceFromChannels(sound, rateHz);
  const out = await applyRecipe(recipe(...steps), source, { note: (note) => notes.push(note) });
  return { out: await collectChannels(streamOf(out)), notes };
}

function peakOf(sound: readonly Float32Array[]): number {
  const meter = new LevelMeter(sound.length);
  meter.push(sound);
  return meter.result().peakDbfs ?? -Infinity;
}

describe('what normalising does with a sound that is too short to have a loudness', () => {
  const short = [sine(48_000, 1_000, 9_600, 0.05)];
  const to = (otherwise?: string, more = {}) =>
    step('normalise', { to: 'lufs', target: -16, ...(otherwise && { otherwise }), ...more });

  test('its loudest 0.4 s are brought to the target, by a meter of strangers', async () => {
    const judge = await ebur128();
    for (const frames of [480, 4_800, 9_600, 19_199]) {
      const { out, notes } = await through(
        [sine(48_000, 1_000, frames, 0.05), noise(frames, 4, 0.02)],
        48_000,
        to('momentary'),
      );
      const padded = out.map((channel) => {
        const longer = new Float32Array(19_200);
        longer.set(channel);
        return longer;
      });
      expect(judge.integrated(padded, 48_000)).toBeCloseTo(-16, 1);
      expect(notes).toMatchObject([{ code: 'otherwise', message: /loudest moment .* −16 LUFS/ }]);
    }
  });

  test('or its true peak; or it is refused, as it is where nothing is said', async () => {
    const { out, notes } = await through(short, 48_000, to('peak'));
    expect(peakOf(out)).toBeCloseTo(-1, 1);
    expect(notes[0]!.message).toMatch(/true peak was brought to −1 dBTP/);
    for (const none of [to('refuse'), to()]) {
      await expect(through(short, 48_000, none)).rejects.toThrow(/too short to have a loudness/);
    }
  });

  test('a ceiling holds then too, and silence is left as it is', async () => {
    const { out } = await through(short, 48_000, to('momentary', { ceilingDbtp: -9 }));
    expect(peakOf(out)).toBeLessThanOrEqual(-9);
    for (const quiet of [new Float32Array(9_600), noise(96_000, 3, 0.0001)]) {
      const { out, notes } = await through([quiet], 48_000, to('momentary'));
      expect(Buffer.from(out[0]!.buffer).equals(Buffer.from(quiet.buffer))).toBe(true);
      expect(notes[0]!.message).toMatch(/too quiet to have a loudness, and was left/);
    }
  });

  test('a sound that is long enough is measured as ever', async () => {
    const long = [noise(96_000, 5, 0.1)];
    const [plain, said] = [
      await through(long, 48_000, to()),
      await through(long, 48_000, to('peak')),
    ];
    expect(said).toEqual(plain);
  });
});

test('each measure has its own usual target, and loudness a ceiling and a way out', () => {
  const { along, params } = kind('normalise');
  const after = (from: object, name: string) => along!(from as never, name);
  expect(after({ to: 'lufs', target: -1 }, 'to')).toEqual({
    to: 'lufs',
    target: -16,
    ceilingDbtp: -1,
    otherwise: 'momentary',
  });
  expect(after({ to: 'peak', target: -16, ceilingDbtp: -1, otherwise: 'peak' }, 'to')).toEqual({
    to: 'peak',
    target: -1,
  });
  const typed = { to: 'lufs', target: -23 };
  expect(after(typed, 'target')).toBe(typed);
  expect(params.isValidSync(after(typed, 'to'), { strict: true })).toBe(true);
});

describe('the most that a peak can be', () => {
  test('is never passed by what comes of the step', async () => {
    const bounded = everyStep.filter((one) => kind(one.kind).peakAtMost);
    expect(bounded.length).toBeGreaterThan(12);
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 1, max: 999 }),
        fc.integer({ min: 1, max: 40 }),
        fc.constantFrom(...bounded, step('gain', { gainDb: 4 })),
        async (seed, loud, one) => {
          const sound = [noise(2_000, seed, loud / 10), noise(2_000, seed + 1, loud / 20)];
          const { out } = await through(sound, 44_100, one);
          const most = peakAtMost(recipe(one), peakOf(sound));
          expect(peakOf(out)).toBeLessThanOrEqual(most + 1e-4);
        },
      ),
      { numRuns: 150 },
    );
  });

  test('needs reading only where it may lie above full scale, or a step measures', () => {
    const cut = step('keep', { startFrame: 0, endFrame: 100 });
    const up = step('gain', { gainDb: 3 });
    const read = (peakDbfs: number | null, ...steps: Step[]) =>
      hasToBeRead(recipe(...steps), peakDbfs);
    expect([read(0, cut), read(-3, up), read(-2.9, up), read(0.5, cut), read(null, up)]).toEqual([
      false,
      false,
      true,
      true,
      false,
    ]);
    expect(read(-20, step('normalise', { to: 'peak', target: -1 }))).toBe(true);
    expect(read(-20, step('resample', { rateHz: 8_000 }))).toBe(true);
    expect(read(3, { ...up, on: false })).toBe(false);
    expect(read(3)).toBe(false);
  });

  test('is found by reading, with what the steps had to say', async () => {
    const source = sourceFromChannels([sine(48_000, 997, 48_000, 0.5)], 48_000);
    const up = recipe(
      step('gain', { gainDb: 12 }),
      step('limit', { ceilingDbtp: 0, how: 'moments' }),
    );
    expect(await readOutcome(recipe(step('gain', { gainDb: 12 })), source)).toMatchObject({
      peakDbfs: expect.closeTo(5.98, 2) as number,
      truePeakDbtp: expect.closeTo(5.98, 2) as number,
      notes: [],
    });
    const limited = await readOutcome(up, source);
    expect(limited.truePeakDbtp).toBeLessThanOrEqual(0);
    expect(limited.notes).toMatchObject([{ code: 'limited', message: /by up to 6 dB/ }]);
  });
});

test('every cure brings what lies above full scale below it, by meters of its own', async () => {
  const loud = recipe(step('normalise', { to: 'lufs', target: -6 }));
  const sound = [noise(96_000, 3, 0.1)];
  for (let i = 0; i < 20; i++) sound[0]![50_000 + i] = i % 4 < 2 ? 0.9 : -0.9;
  const outcome = await readOutcome(loud, sourceFromChannels(sound, 48_000));
  expect(outcome.peakDbfs).toBeGreaterThan(3);
  for (const peak of [outcome.truePeakDbtp, null]) {
    const cures = peakCures(loud, peak);
    expect(cures.map(({ name }) => name)).toEqual([
      'Give the normalising a ceiling of −1 dBTP',
      'Limit the loud moments to −1 dBTP',
      peak === null ? 'Turn each down to −1 dBTP' : expect.stringMatching(/^Change all of it by −/),
    ]);
    for (const { steps } of cures) {
      const { out } = await through(sound, 48_000, ...parseRecipe(recipe(...steps(loud))).steps);
      const judge = await ebur128();
      expect(judge.truePeak(out, 48_000)).toBeLessThan(-0.8);
      expect(judge.truePeak(out, 48_000)).toBeGreaterThan(-2.5);
    }
  }
  // A ceiling is offered only where the normalising is what raised it, and has none.
  const names = (of: Recipe) => peakCures(of, 3).map(({ name }) => name);
  expect(names(recipe(step('gain', { gainDb: 9 })))).toHaveLength(2);
  expect(names(recipe(...loud.steps, step('gain', { gainDb: 9 })))).toHaveLength(2);
});

describe('held against a brief', () => {
  const outcome = (peakDbfs: number | null): Outcome => ({
    peakDbfs,
    truePeakDbtp: peakDbfs,
    notes: [],
    error: null,
  });
  const facts = async (channels: number) => {
    const bytes = await encode(
      Array.from({ length: channels }, (_, c) => noise(48_000, c + 1, 0.5)),
      48_000,
      'wav',
      { bits: 16 },
    );
    return (await probe(memorySource(bytes))).facts;
  };
  async function need(
    of: Recipe,
    { id = 'ar-filter', channels = 1, peak = null as number | null, choices = {} as Choices },
  ) {
    const sound = {
      sourceSha256: 'a',
      facts: await facts(channels),
      warnings: [],
      recipe: of,
      outcome: outcome(peak),
    };
    return needOf(sound, briefById(builtinBriefs, id), choices);
  }
  const loud = recipe(step('gain', { gainDb: 20 }));
  const ofLevel = ({ findings }: Awaited<ReturnType<typeof need>>, requirement = 'full-scale') =>
    findings.filter((finding) => finding.requirement === requirement);

  test('what lies above full scale is a decision, which stops it until it is taken', async () => {
    const open = await need(loud, { peak: 12.5 });
    expect(ofLevel(open)).toMatchObject([
      { verdict: 'decide', sentence: /12\.5 dB above full scale, and would be cut off/ },
    ]);
    expect(open.obstacle?.message).toMatch(/would clip/);
    expect((await need(loud, { peak: 0 })).obstacle).toBeNull();
    expect((await need(recipe(), {})).obstacle).toBeNull();
  });

  test.each([
    ['limit', 'moments'],
    ['lower', 'all'],
    ['keep', undefined],
  ] as const)('%s settles it', async (clipping, how) => {
    const settled = await need(loud, { peak: 12.5, choices: { clipping } });
    expect(settled.obstacle).toBeNull();
    expect(ofLevel(settled)).toMatchObject([{ verdict: 'convert', sentence: /as chosen/ }]);
    const { steps } = settled.files[0]!.plan.recipe;
    const levels = steps.filter(({ kind: name }) => name !== 'resample').slice(1);
    expect(levels).toMatchObject(how ? [{ kind: 'limit', params: { how } }] : []);
    expect(steps.at(-1)!.kind).toBe(how ? 'limit' : 'resample');
    // What was chosen holds, and is legal as a recipe.
    expect(() => parseRecipe(settled.files[0]!.plan.recipe)).not.toThrow();
  });

  test('a level that a mixdown changes is said, and can be brought about behind it', async () => {
    const normalised = recipe(
      step('normalise', { to: 'true-peak', target: -1 }),
      step('fade-out', { frames: 100, shape: 'linear' }),
    );
    const before = await need(normalised, { channels: 2 });
    expect(ofLevel(before, 'level')).toMatchObject([
      { verdict: 'convert', sentence: /−1 dBTP before mixing its channels: .* another level/ },
    ]);
    expect(before.files[0]!.changedLevel).toMatchObject({ target: -1 });
    const behind = await need(normalised, { channels: 2, choices: { levelBehind: true } });
    expect(behind.files[0]!.plan.recipe.steps.map((one) => one.kind)).toEqual([
      'normalise',
      'fade-out',
      'channels',
      'resample',
      'normalise',
    ]);
    expect(behind.files[0]!.changedLevel).toBeNull();
    expect(ofLevel(behind, 'level')[0]!.sentence).toMatch(/once more .* as chosen/);
    for (const other of [
      await need(normalised, { channels: 1 }),
      await need(recipe(...normalised.steps, step('gain', { gainDb: 1 })), { channels: 2 }),
    ]) {
      expect(ofLevel(other, 'level')).toEqual([]);
    }
  });

  test('a finished file that has another level than was asked for says so', async () => {
    const found = { facts: { ...(await facts(1)), truePeakDbtp: -1.4, lufs: -16.1 } };
    expect(levelRemark({ to: 'true-peak', target: -1 }, found)).toMatch(/−1\.4 dBTP, not −1/);
    expect(levelRemark({ to: 'lufs', target: -16 }, found)).toBeNull();
  });
});
