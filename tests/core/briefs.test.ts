import { accepts } from '@/core/brief/accepted';
import { builtinBriefs, builtinTexts } from '@/core/brief/builtin';
import { briefById as briefIn, storedBrief } from '@/core/brief/catalogue';
import { check, checkFinished } from '@/core/brief/check';
import { completeBrief } from '@/core/brief/complete';
import { needOf } from '@/core/brief/needs';
import { conversionSteps, findingsWith, obstacle } from '@/core/brief/plan';
import type { BriefText } from '@/core/brief/schema';
import { channelTarget, rateTarget, settingsFor } from '@/core/brief/target';
import type { CheckedFacts } from '@/core/brief/types';
import { planText, type EncodingPlan } from '@/core/encoding';
import { checkedSettings, writerById } from '@/core/formats/write';
import { unmeasured } from '@/core/measure/probe';

const source: CheckedFacts = {
  container: 'wav',
  codec: 'pcm',
  sampleRateHz: 48_000,
  channels: 2,
  bitDepth: 24,
  seconds: 5,
  bytes: 1_440_044,
  correlation: 0.4,
};
const briefById = (id: string) => briefIn(builtinBriefs, id);
const arFilter = briefById('ar-filter');
const verdicts = (facts: CheckedFacts, id: string) =>
  Object.fromEntries(
    check(facts, briefById(id)).map((f) => [`${f.fileId} ${f.requirement}`, f.verdict]),
  );

test.each(builtinBriefs.map((brief) => [brief.id, brief] as const))(
  '%s is made complete of what its writers know, and they can meet it',
  (_, brief) => {
    for (const file of brief.files) {
      const writer = writerById(file.writer);
      expect(writer).toMatchObject({
        container: file.container,
        codec: file.codec,
        extension: (file.ending ?? file.extension).toLowerCase(),
      });
      for (const rateHz of [8_000, 11_025, 44_100, 48_000, 192_000]) {
        const made = rateTarget(file, rateHz, 2);
        const channels = channelTarget(file, 2)!;
        expect(accepts(file.sampleRatesHz, made)).toBe(true);
        const settings = settingsFor(file, source, { rateHz: made, channelCount: channels });
        expect(() => checkedSettings(writer, settings, made, channels)).not.toThrow();
      }
    }
  },
);

describe('a brief that cannot be used is refused with the path of the field', () => {
  const text = builtinTexts.find(({ id }) => id === 'wav-master')!;
  const withFile = (change: object): BriefText => ({
    ...text,
    files: [{ ...text.files[0]!, ...change }],
  });
  test.each<[string, BriefText, RegExp]>([
    ['files[0].writer', withFile({ writer: 'wax' }), /no format "wax"/],
    ['files[0].bitDepths', withFile({ bitDepths: [24, 20] }), /no 20-bit samples/],
    ['files[0].settings', withFile({ settings: { bits: 25 } }), /WAV: /],
    [
      'files[0].settings',
      withFile({ writer: 'mp3', settings: {}, bitDepths: undefined, sampleRatesHz: [47_000] }),
      /47000 Hz/,
    ],
    [
      'files[0].settings',
      withFile({ writer: 'm4a', settings: {}, bitDepths: undefined, channels: [6] }),
      /channel/i,
    ],
    ['files[0].sampleRatesHz', withFile({ sampleRatesHz: [] }), /at least 1/],
    ['id', { ...text, id: 'No Id' }, /must match/],
    ['files', { ...text, files: [] }, /at least 1/],
  ])('%s', (field, brief, message) => {
    const refused = () => completeBrief(brief);
    expect(refused).toThrow(message);
    expect(refused).toThrow(expect.objectContaining({ code: 'bad-setting', field }));
  });
});

test('what an assignment needs is planned from the sound, the brief and the choices alone', () => {
  const sound = {
    sourceSha256: 'f'.repeat(64),
    facts: {
      ...unmeasured,
      ...source,
      frames: 240_000,
      bitRateKbps: 1,
      peakDbfs: 0,
      rmsDbfs: 0,
      correlation: 0.4,
    },
    warnings: [],
    recipe: {
      version: 1 as const,
      steps: [{ kind: 'keep', on: true, params: { startFrame: 0, endFrame: 48_000 } }],
    },
  };
  // A brief of somebody's own: nothing but the argument is looked at.
  const own = completeBrief({ ...builtinTexts[0]!, id: 'my-own', title: 'My own', mostSeconds: 2 });
  const need = needOf(sound, own, { mono: 'right' });
  expect(need.obstacle).toBeNull();
  expect(need.files).toMatchObject([
    {
      file: { id: 'm4a', container: 'mp4', extension: 'm4a' },
      plan: {
        sourceSha256: sound.sourceSha256,
        writer: 'm4a',
        isCopy: false,
        recipe: {
          steps: [
            { kind: 'keep' },
            { kind: 'channels', params: { mode: 'right' } },
            { kind: 'resample', params: { rateHz: 44_100 } },
          ],
        },
      },
    },
  ]);
  expect(need.files[0]!.steps.at(-1)).toMatch(/^encode with 96 kbit/);
  const whole = needOf({ ...sound, recipe: { version: 1, steps: [] } }, own, {});
  expect(whole.obstacle).toMatchObject({
    code: 'not-legal',
    message: expect.stringMatching(/too long/i),
  });
});

test('a plan is told from another by what changes bytes, and by nothing else', () => {
  const plan: EncodingPlan = {
    sourceSha256: 'a'.repeat(64),
    recipe: { version: 1, steps: [{ kind: 'reverse', on: true, params: {} }] },
    writer: 'ogg',
    settings: { quality: 5 },
    isCopy: false,
  };
  const off = { kind: 'polarity', on: false, params: {} };
  const same = { ...plan, recipe: { ...plan.recipe, steps: [...plan.recipe.steps, off] } };
  expect(planText(same)).toBe(planText(plan));
  // Left at their usual value or written down: the same settings.
  expect(planText({ ...plan, writer: 'flac', settings: {} })).toBe(
    planText({ ...plan, writer: 'flac', settings: writerById('flac').settings.getDefault() }),
  );
  const others: Partial<EncodingPlan>[] = [
    { sourceSha256: 'b'.repeat(64) },
    { recipe: { version: 1, steps: [] } },
    { settings: { quality: 6 } },
    { writer: 'mp3', settings: {} },
    { isCopy: true },
  ];
  const texts = others.map((other) => planText({ ...plan, ...other }));
  expect(new Set([planText(plan), ...texts]).size).toBe(others.length + 1);
});

test('a brief that is not known here wants nothing', () => {
  expect(() => briefById('of-tomorrow')).toThrow(/no brief "of-tomorrow"/);
  expect(storedBrief(builtinBriefs, 'of-tomorrow')).toMatchObject({ files: [], notes: [] });
});

test('a stereo 48 kHz WAV for the AR filter: three things are converted', () => {
  expect(verdicts(source, 'ar-filter')).toEqual({
    'm4a format': 'convert',
    'm4a sample-rate': 'convert',
    'm4a channels': 'convert',
    'm4a length': 'met',
  });
  const shaped = { rateHz: 48_000, channelCount: 2, frames: 100 };
  expect(conversionSteps(shaped, arFilter.files[0]!, { mono: 'left' })).toMatchObject([
    { kind: 'channels', params: { mode: 'left' } },
    { kind: 'resample', params: { rateHz: 44_100 } },
  ]);
});

test('channels that would cancel need a decision, and the decision settles it', () => {
  const opposed = { ...source, correlation: -0.9 };
  expect(verdicts(opposed, 'ar-filter')).toMatchObject({ 'm4a channels': 'decide' });
  expect(obstacle(findingsWith(opposed, arFilter, {}), arFilter)).toMatchObject({
    code: 'not-legal',
  });
  expect(obstacle(findingsWith(opposed, arFilter, { mono: 'left' }), arFilter)).toBeNull();
  // Two sounds that have nothing in common do not cancel.
  expect(verdicts({ ...source, correlation: -0.01 }, 'ar-filter')).toMatchObject({
    'm4a channels': 'convert',
  });
});

test('limits of length and size cannot be met by conversion', () => {
  const strict = { ...arFilter, mostSeconds: 3, mostBytes: 10_000 };
  const finished = { ...source, container: 'mp4', codec: 'aac', bitDepth: null };
  expect(check(source, strict).filter((f) => f.verdict === 'cannot')).toMatchObject([
    { requirement: 'length' },
  ]);
  expect(check(finished, strict).filter((f) => f.verdict === 'cannot')).toMatchObject([
    { requirement: 'length' },
    { requirement: 'bytes' },
  ]);
});

test('a finished file is judged by the file of the brief that it comes closest to', () => {
  const mp3 = { ...source, container: 'mp3', codec: 'mp3', bitDepth: null };
  expect(checkFinished(mp3, briefById('web-page'))).toMatchObject({ accepted: true });
  expect(checkFinished(mp3, briefById('web-page'), 'ogg')).toMatchObject({ accepted: false });
  expect(checkFinished(source, briefById('wav-master'))).toMatchObject({ accepted: true });
  expect(checkFinished({ ...source, bitDepth: 16 }, briefById('wav-master')).accepted).toBe(false);
});

test('what is not legal is refused with the nearest legal choices', () => {
  const refuse = (writer: string, settings: object, rate: number, channels: number) => {
    try {
      checkedSettings(writerById(writer), settings, rate, channels);
      return null;
    } catch (error) {
      return error as { code: string; hint: string; message: string };
    }
  };
  expect(refuse('mp3', { kbps: 128 }, 47_000, 2)).toMatchObject({
    code: 'not-legal',
    hint: 'Resample to 44100 or 48000 Hz.',
  });
  expect(refuse('mp3', { kbps: 320 }, 22_050, 2)).toMatchObject({ code: 'not-legal' });
  expect(refuse('m4a', { kbps: 320 }, 8_000, 1)).toMatchObject({ code: 'not-legal' });
  expect(refuse('ogg', { quality: 11 }, 44_100, 2)).toMatchObject({ code: 'bad-setting' });
  expect(refuse('ogg', { quality: 4, speed: 3 }, 44_100, 2)).toMatchObject({ code: 'bad-setting' });
  expect(refuse('mp3', { kbps: 128, quality: 2 }, 44_100, 2)).toMatchObject({
    code: 'bad-setting',
  });
  expect(refuse('m4a', { kbps: 128 }, 44_100, 6)).toMatchObject({ code: 'not-legal' });
});
