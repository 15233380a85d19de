import { builtinTexts } from '@/core/brief/builtin';
import { checkFinished } from '@/core/brief/check';
import type { Choices } from '@/core/brief/choices';
import { completeBrief } from '@/core/brief/complete';
import { needOf, type AssignedSound } from '@/core/brief/needs';
import type { BriefText } from '@/core/brief/schema';
import type { CheckedFacts } from '@/core/brief/types';
import { planText } from '@/core/encoding';
import { unmeasured } from '@/core/measure/probe';

const text: BriefText = {
  ...builtinTexts.find(({ id }) => id === 'engine-music')!,
  loop: undefined,
};
const brief = (change: Partial<BriefText>, file: Partial<BriefText['files'][number]> = {}) =>
  completeBrief({ ...text, ...change, files: [{ ...text.files[0]!, ...file }] });

const facts = {
  ...unmeasured,
  container: 'wav',
  codec: 'pcm',
  sampleRateHz: 44_100,
  channels: 2,
  bitDepth: 16,
  frames: 441_000,
  seconds: 10,
  bytes: 1_764_044,
  bitRateKbps: 1_411,
  peakDbfs: -0.5,
  truePeakDbtp: -0.4,
  lufs: -20,
  rmsDbfs: -20,
  correlation: 0.4,
};
const sound: AssignedSound = {
  sourceSha256: 'f'.repeat(64),
  facts,
  warnings: [],
  recipe: { version: 1, steps: [] },
  name: 'gull',
  group: 'birds',
};
const added = (
  of: ReturnType<typeof brief>,
  choices: Choices = {},
  from: Partial<typeof facts> = {},
) => {
  const need = needOf({ ...sound, facts: { ...facts, ...from } }, of, choices);
  const { plan } = need.files[0]!;
  return {
    ...need,
    plan,
    steps: plan.recipe.steps.map(({ kind, params }) => ({ kind, ...params })),
  };
};
const verdicts = ({ findings }: ReturnType<typeof needOf>) =>
  Object.fromEntries(findings.map(({ requirement, verdict }) => [requirement, verdict]));

describe('level', () => {
  test('a ceiling alone turns all of it down, and holds what a lossy codec makes of it', () => {
    const need = added(brief({ level: { peakDbtp: -2 } }));
    expect(need.steps).toEqual([{ kind: 'limit', ceilingDbtp: -2, how: 'all' }]);
    expect(need.plan.heldDbtp).toBe(-2);
    expect(verdicts(need)).toMatchObject({ peak: 'convert' });
    expect(verdicts(added(brief({ level: { peakDbtp: -0.2 } })))).toMatchObject({ peak: 'met' });
    expect(added(brief({ level: { peakDbtp: -2, isFixed: true } })).plan.heldDbtp).toBeUndefined();
    const wav = brief({ level: { peakDbtp: -2 } }, { writer: 'wav', settings: {} });
    expect(added(wav).plan.heldDbtp).toBeUndefined();
    // Another ceiling is another file.
    expect(planText(need.plan)).not.toBe(planText({ ...need.plan, heldDbtp: -1 }));
  });
  test('a loudness is brought about before the ceiling, which then takes the loud moments alone', () => {
    const need = added(brief({ level: { lufs: -16, peakDbtp: -1 } }));
    expect(need.steps).toMatchObject([
      { kind: 'normalise', to: 'lufs', target: -16 },
      { kind: 'limit', ceilingDbtp: -1, how: 'moments' },
    ]);
    expect(verdicts(need)).toMatchObject({ loudness: 'convert' });
    const met = added(brief({ level: { lufs: -20.05, toleranceLu: 1 } }));
    expect(met.steps).toEqual([]);
    expect(verdicts(met)).toMatchObject({ loudness: 'met' });
  });
  test.each<[Partial<CheckedFacts>, boolean]>([
    [{ lufs: -16.9 }, true],
    [{ lufs: -17.1 }, false],
    [{ lufs: null }, true],
    [{ truePeakDbtp: -0.96 }, true],
    [{ truePeakDbtp: -0.9 }, false],
    [{ truePeakDbtp: null }, true],
  ])('a finished file with %j: %s', (found, accepted) => {
    const of = brief({ level: { lufs: -16, peakDbtp: -1 } });
    const ogg = {
      ...facts,
      container: 'ogg',
      codec: 'vorbis',
      bitDepth: null,
      lufs: -16,
      truePeakDbtp: -3,
    };
    expect(checkFinished({ ...ogg, ...found }, of).accepted).toBe(accepted);
  });
});

describe('loop', () => {
  const loop = { startFrame: 0, endFrame: 441_000 };
  test('where none is marked and one is needed somebody decides; all of it may repeat', () => {
    const of = brief({ loop: { isNeeded: true, marked: 'file' } });
    const open = added(of);
    expect(verdicts(open)).toMatchObject({ loop: 'decide' });
    expect(open.obstacle).not.toBeNull();
    const settled = added(of, { isWholeLoop: true });
    expect(settled.obstacle).toBeNull();
    expect(settled.steps).toMatchObject([{ kind: 'loop', startFrame: 0, endFrame: 441_000 }]);
    expect(verdicts(added(of, {}, { loop } as never))).toMatchObject({ loop: 'met' });
  });
  test('where none may be, its mark is left out', () => {
    const need = added(brief({ loop: { marked: 'forbidden' } }), {}, { loop } as never);
    expect(need.steps).toMatchObject([{ kind: 'keep', withoutLoop: true, endFrame: 441_000 }]);
    expect(added(brief({ loop: { marked: 'forbidden' } })).steps).toEqual([]);
  });
  test('a seam that is heard is for somebody to mend', () => {
    const of = brief({ loop: { leastSeamScore: 70 } });
    const scored = (score: number) =>
      verdicts(added(of, {}, { loop, seam: { score } } as never))['seam'];
    expect([scored(69), scored(70)]).toEqual(['decide', 'met']);
  });
  test('a format without a place for it is found out', () => {
    const found = { ...facts, container: 'ogg', codec: 'vorbis', bitDepth: null, loop };
    const of = brief({ loop: { marked: 'file' } });
    expect(checkFinished({ ...found, isLoopInFile: true }, of).accepted).toBe(true);
    expect(checkFinished({ ...found, isLoopInFile: false }, of).accepted).toBe(false);
  });
});

test('tags are set, kept or taken out, and what was written is held against that', () => {
  const own = { tags: { title: 'old', artist: 'Ada', comment: 'x' } } as never;
  const of = brief({ tags: { keep: ['artist'], set: { title: '{group}: {name}' } } });
  const { plan, files } = added(of, {}, own);
  const wanted = { artist: 'Ada', title: 'birds: gull' };
  expect(files[0]!.tags).toEqual(wanted);
  expect(plan.tags).toMatchObject({ ...wanted, comment: '' });
  const ogg = { ...facts, container: 'ogg', codec: 'vorbis', bitDepth: null };
  const accepted = (tags: object) =>
    checkFinished({ ...ogg, tags, wantedTags: wanted }, of).accepted;
  expect(accepted(wanted)).toBe(true);
  expect(accepted({ ...wanted, comment: 'x' })).toBe(false);
  expect(accepted({ artist: 'Ada' })).toBe(false);
  expect(accepted({ ...wanted, title: 'old' })).toBe(false);
  expect(added(brief({}), {}, own).plan.tags).toBeUndefined();
});

describe('what is left open is as the source has it', () => {
  const free = brief(
    {},
    { writer: 'wav', settings: {}, sampleRatesHz: undefined, channels: undefined },
  );
  test.each([
    [16, 'pcm', 16],
    [8, 'pcm', 8],
    [12, 'pcm', 16],
    [32, 'float', 32],
    [null, 'mp3', 16],
  ])('%s bits of %s are stored with %d', (bitDepth, codec, bits) => {
    expect(added(free, {}, { bitDepth, codec } as never).plan.settings).toMatchObject({ bits });
  });
  test('rates too, unless the format or a fixed bit rate has none there: then the next higher', () => {
    const rateOf = (of: typeof free, sampleRateHz: number) => {
      const [step] = added(of, {}, { sampleRateHz }).steps as { rateHz?: number }[];
      return step?.rateHz ?? sampleRateHz;
    };
    expect(rateOf(free, 37_800)).toBe(37_800);
    const mp3 = brief({}, { writer: 'mp3', settings: { kbps: 256 }, sampleRatesHz: undefined });
    expect(rateOf(mp3, 22_050)).toBe(32_000);
    expect(rateOf(mp3, 37_800)).toBe(44_100);
    const span = brief({}, { sampleRatesHz: { from: 22_050, to: 32_000 } });
    expect([11_025, 24_000, 28_001, 48_000].map((hz) => rateOf(span, hz))).toEqual([
      22_050, 24_000, 28_001, 32_000,
    ]);
  });
});

test('what is chosen for a sound alone narrows the brief, and nothing that it does not take', () => {
  const of = brief({}, { sampleRatesHz: { from: 22_050, to: 48_000 }, channels: [2, 1] });
  const chosen = added(of, {
    rateHz: 32_000,
    isMono: true,
    mono: 'right',
    seconds: 4,
    settings: { ogg: { quality: 1 } },
  });
  expect(chosen.steps).toMatchObject([
    { kind: 'keep', startFrame: 0, endFrame: 176_400 },
    { kind: 'fade-out', frames: 2_205 },
    { kind: 'channels', mode: 'right' },
    { kind: 'resample', rateHz: 32_000 },
  ]);
  expect(chosen.plan.settings).toEqual({ quality: 1 });
  expect(added(of, { rateHz: 8_000 }).steps).toEqual([]);
  expect(added(brief({ mostSeconds: 5 }), { seconds: 5 }).obstacle).toBeNull();
  expect(added(brief({ mostSeconds: 5 }), {}).obstacle).not.toBeNull();
  expect(() => added(of, { settings: { ogg: { quality: 11 } } })).toThrow(/quality/);
});

test('what is taken in another form is handed on under its own ending', () => {
  const of = brief({}, { writer: 'wav', settings: {}, alsoTakes: ['mp3'], ending: undefined });
  const mp3 = { container: 'mp3', codec: 'mp3', bitDepth: null } as never;
  const need = added(of, {}, mp3);
  expect(need.plan.isCopy).toBe(true);
  expect(need.files[0]!.ending).toBe('mp3');
  expect(
    added(of, {}, { container: 'ogg', codec: 'vorbis', bitDepth: null } as never).plan.isCopy,
  ).toBe(false);
});

test('two channels are made of six where two are taken, and six of two by nobody', () => {
  const six = { channels: 6, speakers: null } as never;
  expect(added(brief({}), {}, six).steps).toMatchObject([{ kind: 'channels', mode: 'stereo' }]);
  const wav = brief({}, { writer: 'wav', settings: {}, channels: [6] });
  expect(verdicts(added(wav))).toMatchObject({ channels: 'cannot' });
});

test('a brief that asks for languages waits for the one of each sound', () => {
  const of = brief({ languages: ['en', 'de'], folder: '{language}' });
  const verdict = (language: string | null) =>
    verdicts(needOf({ ...sound, language }, of, {}))['language'];
  expect([verdict(null), verdict('de'), verdict('fr')]).toEqual(['decide', 'met', 'cannot']);
});

test.each<[object, Partial<CheckedFacts>, boolean]>([
  [{ bitRatesKbps: [128] }, { bitRateKbps: 135, constantKbps: null }, true],
  [{ bitRatesKbps: [128] }, { bitRateKbps: 145, constantKbps: null }, false],
  [{ bitRatesKbps: { from: 96, to: 128 } }, { bitRateKbps: 100 }, true],
  [{ isConstant: false }, { bitRateKbps: 100, constantKbps: null }, true],
  [{ isConstant: false }, { bitRateKbps: 100, constantKbps: 96 }, false],
])('of a bit rate, %j takes %j: %s', (demand, found, accepted) => {
  const ogg = { ...facts, container: 'ogg', codec: 'vorbis', bitDepth: null };
  expect(checkFinished({ ...ogg, ...found }, brief({}, demand)).accepted).toBe(accepted);
});

test.each<[string, boolean]>([
  ['gull_near.ogg', true],
  ['Gull_near.ogg', false],
  ['gull near.ogg', false],
  ['gull_near_and_far.ogg', false],
  ['gull_near.OGG', false],
])('of a file from elsewhere the name is looked at: %s', (fileName, accepted) => {
  const of = brief({ names: { case: 'lower', characters: 'a-z_', longest: 16 } });
  const ogg = { ...facts, container: 'ogg', codec: 'vorbis', bitDepth: null };
  expect(checkFinished({ ...ogg, fileName }, of).accepted).toBe(accepted);
});
