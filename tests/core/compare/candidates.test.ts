import { builtinBriefs } from '@/core/brief/builtin';
import { completeBrief } from '@/core/brief/complete';
import { allowedBy } from '@/core/compare/candidates/allowed';
import { wholeName } from '@/core/compare/candidates/candidate';
import { quickestFirst } from '@/core/compare/candidates/order';
import { candidateText, namedCandidate, parseCandidate } from '@/core/compare/candidates/text';
import { readySets, setById, stepsAround } from '@/core/compare/candidates/sets';
import { unbeaten } from '@/core/compare/front';
import { gradeMapping, gradeOf, wordsOfGrade } from '@/core/compare/grade';
import {
  checkLoad,
  loadPolicies,
  usualLoad,
  voicesPerCore,
  type LoadedSound,
} from '@/core/compare/load';
import { planTrial } from '@/core/compare/plan';
import { isUnsteady, spreadOf } from '@/core/compare/spread';
import { soundBytes } from '@/core/compare/soundBytes';
import { memorySource } from '@/core/bytes/source';
import { checkedSettings, writerById } from '@/core/formats/write';
import { probe } from '@/core/measure/probe';
import { emptyRecipe } from '@/core/recipe/types';
import fc from 'fast-check';
import { encode, written } from '../files';
import { noise } from '../signals';
import { pcmFromChannels } from '@/core/pcm/pcm';

test('candidates are read as they are written', () => {
  const texts = {
    'ogg/vorbis@q3': { writer: 'ogg', settings: { quality: 3 } },
    'mp3@128': { writer: 'mp3', settings: { kbps: 128 } },
    'mp3@vbr2': { writer: 'mp3', settings: { quality: 2 } },
    'ogg/opus@96': { writer: 'ogg-opus', settings: { kbps: 96 } },
    'm4a/aac@96': { writer: 'm4a', settings: { kbps: 96 } },
    'wav/ima-adpcm': { writer: 'wav-ima-adpcm', settings: {} },
    'wav/pcm@16': { writer: 'wav', settings: { bits: 16 } },
    'flac@16+l8': { writer: 'flac', settings: { bits: 16, level: 8 } },
    'ogg/vorbis@q-1': { writer: 'ogg', settings: { quality: -1 } },
    flac: { writer: 'flac', settings: {} },
  };
  for (const [text, candidate] of Object.entries(texts)) {
    expect(parseCandidate(text)).toEqual(candidate);
    expect(candidateText(candidate)).toBe(text);
  }
  expect(parseCandidate(' ogg@q3 ')).toEqual(parseCandidate('ogg/vorbis@q3'));
});

test.each([
  '',
  'mp3@',
  'nope@3',
  'mp3@q3',
  'ogg/mp3@1',
  'wav@17',
  'mp3@12x',
  'mp3/x',
  'wav/ima-adpcm@4',
  'a b',
])('"%s" is no candidate, and it is said what is one', (text) => {
  expect(() => parseCandidate(text)).toThrow(
    expect.objectContaining({ code: 'wrong-call', hint: expect.stringMatching(/./) }),
  );
});

test('any text is read or refused in words', () => {
  fc.assert(
    fc.property(fc.string(), (text) => {
      try {
        candidateText(parseCandidate(text));
      } catch (error) {
        expect(error).toMatchObject({ code: 'wrong-call' });
      }
    }),
  );
});

test('every candidate of every ready set can be written from 48 kHz stereo, and reads back', () => {
  for (const { candidates, id } of readySets) {
    expect(candidates.length).toBeGreaterThan(2);
    for (const candidate of candidates) {
      expect(parseCandidate(candidateText(candidate))).toEqual(candidate);
      expect(wholeName(namedCandidate(candidate))).not.toContain('undefined');
      // The lowest bit rates are for lower rates.
      if (id.startsWith('fine')) continue;
      checkedSettings(writerById(candidate.writer), candidate.settings, 48_000, 2);
    }
  }
  expect(() => setById('nope')).toThrow('no set');
  const steps = stepsAround(parseCandidate('mp3@128')).map(({ settings }) => settings);
  expect(steps.map((one) => (one as { kbps: number }).kbps)).toEqual([
    80, 96, 112, 128, 160, 192, 224,
  ]);
  expect(stepsAround(parseCandidate('wav/ima-adpcm'))).toHaveLength(1);
});

test('a trial is held against its sound with as many channels and the rate of the sound', async () => {
  const stereo = [noise(4_410, 1), noise(4_410, 2)];
  const { facts } = await probe(memorySource(await encode(stereo, 44_100, 'wav', { bits: 16 })));
  const sound = { sourceSha256: '', facts, recipe: emptyRecipe };
  const { plan, reference, shape } = planTrial(sound, {
    ...parseCandidate('ogg/opus@64'),
    channels: 'mix',
  });
  expect(plan.recipe.steps.map(({ kind }) => kind)).toEqual(['channels', 'resample']);
  expect(reference.steps.map(({ kind }) => kind)).toEqual(['channels']);
  expect(shape).toMatchObject({ rateHz: 48_000, channelCount: 1 });
  expect(() => planTrial(sound, parseCandidate('mp3@999'))).toThrow('999');
});

const sound: LoadedSound = {
  ...{ codec: 'vorbis', bytes: 200_000, frames: 480_000, sampleRateHz: 48_000, channels: 2 },
  msPerSecond: { median: 5, low: 4, high: 7 },
  firstBlockMs: 10,
};

test('ways of loading cost what their formulas say', () => {
  const settings = { ...usualLoad, voices: 50, slower: 4, storageMbits: 100, readBytes: 20_000 };
  const [unpacked, packed, streamed] = loadPolicies.map(({ cost }) => cost(sound, settings));
  expect(unpacked).toMatchObject({ residentBytes: 480_000 * 2 * 2, readsPerSecond: 0 });
  expect(unpacked!.cpu.median).toBe(0);
  expect(unpacked!.loadSeconds).toBeCloseTo(0.016 + 10 * 0.005 * 4, 9);
  const voice = 100_000 + 2 * 16_384 + 1_024 * 2 * 4;
  expect(packed!.residentBytes).toBe(200_000 + 50 * voice);
  expect(packed!.cpu).toEqual({ median: 1, low: 0.8, high: expect.closeTo(1.4, 9) });
  expect(streamed!.residentBytes).toBe(50 * (2 * 20_000 + voice));
  expect(streamed!.readsPerSecond).toBeCloseTo((50 * 200_000) / 10 / 20_000, 9);
  expect(streamed!.loadSeconds).toBeCloseTo(0.0016 + 0.04, 9);
  expect(voicesPerCore(sound.msPerSecond, 4)).toBe(50);
  // A file that is smaller than a piece is read once for every pass.
  const small = loadPolicies[2]!.cost({ ...sound, bytes: 1_000 }, settings);
  expect(small.readsPerSecond).toBeCloseTo(5, 9);
});

test.each([
  ['voices', 0],
  ['voices', 1_000_001],
  ['voices', 1.5],
  ['voices', NaN],
  ['slower', -1],
  ['readBytes', 1],
])('%s of %d is refused by its name', (field, value) => {
  expect(() => checkLoad({ ...usualLoad, [field]: value })).toThrow(
    expect.objectContaining({ code: 'bad-setting', field }),
  );
  expect(checkLoad({ ...usualLoad, voices: 1_000_000 }).voices).toBe(1_000_000);
});

test('a spread is the middle of its runs, with two thirds of them inside', () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: 0.01, max: 100, noNaN: true }), { minLength: 1 }),
      (runs) => {
        const { median, low, high } = spreadOf(runs);
        expect(low).toBeLessThanOrEqual(median);
        expect(high).toBeGreaterThanOrEqual(median);
        // A sixth lies outside at either end, and of few runs one.
        const outside = runs.filter((run) => run < low || run > high).length;
        expect(outside).toBeLessThanOrEqual(2 * Math.ceil(runs.length / 6));
      },
    ),
  );
  expect(spreadOf([10])).toEqual({ median: 10, low: 9.6, high: 10.4 });
  expect(isUnsteady(spreadOf([10, 10, 10, 10.5]))).toBe(false);
  expect(isUnsteady(spreadOf([10, 12, 14, 16]))).toBe(true);
});

test('grades fall with noise and with disturbed frames, and say so in words', () => {
  fc.assert(
    fc.property(
      fc.double({ min: -90, max: 60, noNaN: true }),
      fc.double({ min: 0, max: 1, noNaN: true }),
      (nmrDb, disturbed) => {
        const grade = gradeOf({ nmrDb, disturbed });
        expect(grade).toBeLessThanOrEqual(0);
        expect(grade).toBeGreaterThanOrEqual(-4);
        expect(gradeOf({ nmrDb: nmrDb + 5, disturbed })).toBeLessThanOrEqual(grade);
        expect(gradeOf({ nmrDb, disturbed: Math.min(1, disturbed + 0.1) })).toBeLessThanOrEqual(
          grade,
        );
      },
    ),
  );
  expect(gradeOf({ nmrDb: gradeMapping.middleDb, disturbed: 0 })).toBe(-2);
  expect(gradeOf({ nmrDb: null, disturbed: 0 })).toBe(0);
  expect([0, -0.5, -0.6, -2.5, -2.6, -4].map(wordsOfGrade)).toEqual([
    'imperceptible',
    'imperceptible',
    'perceptible, but not annoying',
    'slightly annoying',
    'annoying',
    'very annoying',
  ]);
});

test('what no other beats stands on the line', () => {
  const points = [
    { bytes: 10, grade: -3 },
    { bytes: 20, grade: -1 },
    { bytes: 25, grade: -2 },
    { bytes: 20, grade: -1 },
    { bytes: 30, grade: 0 },
    { bytes: 40, grade: 0 },
  ];
  expect(unbeaten(points)).toEqual([true, true, false, true, true, false]);
});

test.each([
  ['wav', { bits: 16 }],
  ['wav-ima-adpcm', {}],
  ['aiff', { bits: 16 }],
  ['flac', { bits: 16 }],
  ['mp3', { kbps: 128 }],
  ['ogg', { quality: 4 }],
  ['ogg-opus', { kbps: 96 }],
  ['webm', { kbps: 96 }],
  ['m4a', { kbps: 96 }],
])(
  'what stands around the sound in %s grows with its tags, and not with its length',
  async (writer, settings) => {
    const around = async (seconds: number, comment: string) => {
      const pcm = pcmFromChannels([noise(48_000 * seconds, 3)], 48_000);
      const marks = { tags: { comment }, loop: null, markers: [] };
      const file = memorySource(await written(pcm, writer, settings, undefined, marks));
      return file.size - (await soundBytes(file, writerById(writer).container))!;
    };
    const [bare, tagged, long] = [
      await around(1, ''),
      await around(1, 'x'.repeat(500)),
      await around(3, ''),
    ];
    expect(bare).toBeGreaterThan(20);
    expect(tagged - bare).toBeGreaterThanOrEqual(500);
    expect(tagged - bare).toBeLessThan(2_000);
    // Indexes and heads of packets grow, by less than a tenth of what the sound does.
    expect(long - bare).toBeLessThan(3_000);
  },
);

test('what a brief allows are its own settings, and values from all over what it leaves open', () => {
  const brief = (files: object[]) =>
    completeBrief({ id: 'own-a', version: 1, title: 'A', purpose: 'a', files, notes: [] } as never);
  const texts = (files: object[]) => allowedBy(brief(files)).map(candidateText);
  expect(texts([{ id: 'a', writer: 'mp3', settings: { kbps: 128 } }])).toEqual(['mp3@128']);
  expect(
    texts([{ id: 'a', writer: 'mp3', settings: {}, bitRatesKbps: { from: 64, to: 128 } }]),
  ).toEqual(['mp3@64', 'mp3@80', 'mp3@96', 'mp3@112', 'mp3@128']);
  expect(texts([{ id: 'a', writer: 'wav', settings: {}, bitDepths: [16, 24] }])).toEqual([
    'wav/pcm@16',
    'wav/pcm@24',
  ]);
  const [only] = allowedBy(
    brief([
      { id: 'a', writer: 'm4a', settings: { kbps: 96 }, sampleRatesHz: [44_100], channels: [1] },
    ]),
  );
  expect(only).toEqual({ writer: 'm4a', settings: { kbps: 96 }, rateHz: 44_100, channels: 'mix' });
  for (const builtin of builtinBriefs) {
    for (const candidate of allowedBy(builtin)) {
      expect(() => namedCandidate(candidate)).not.toThrow();
    }
    expect(allowedBy(builtin).length).toBeGreaterThan(0);
  }
});

test('what is quick to make is made first, and what is alike in the order asked for', () => {
  const asked = ['m4a@96', 'mp3@128', 'ogg@q3', 'mp3@64', 'flac', 'ogg/opus@64', 'wav/pcm@16'];
  const order = quickestFirst(asked.map((text) => ({ candidate: parseCandidate(text), text })));
  expect(order.map(({ text }) => text)).toEqual([
    ...['wav/pcm@16', 'flac', 'ogg/opus@64', 'ogg@q3', 'mp3@128', 'mp3@64', 'm4a@96'],
  ]);
});
