import { builtinBriefs, briefById } from '@/core/brief';
import { check, checkFinished } from '@/core/brief/check';
import { conversionSteps, obstacle } from '@/core/brief/plan';
import { briefSchema } from '@/core/brief/schema';
import type { CheckedFacts } from '@/core/brief/types';
import { checkedSettings, writerById } from '@/core/formats/write';

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
const arFilter = briefById('ar-filter');
const verdicts = (facts: CheckedFacts, id: string) =>
  Object.fromEntries(
    check(facts, briefById(id)).map((f) => [`${f.fileId} ${f.requirement}`, f.verdict]),
  );

test.each(builtinBriefs.map((brief) => [brief.id, brief] as const))(
  '%s is valid data that its writers can meet',
  (_, brief) => {
    expect(briefSchema.validateSync(brief, { strict: true })).toEqual(brief);
    for (const file of brief.files) {
      const writer = writerById(file.writer);
      expect(writer).toMatchObject({
        container: file.container,
        codec: file.codec,
        extension: file.extension,
      });
      for (const rateHz of file.sampleRatesHz) {
        for (const channels of file.channels) {
          expect(() => checkedSettings(writer, file.settings, rateHz, channels)).not.toThrow();
        }
      }
    }
  },
);

test('a stereo 48 kHz WAV for the AR filter: three things are converted', () => {
  expect(verdicts(source, 'ar-filter')).toEqual({
    'm4a format': 'convert',
    'm4a sample-rate': 'convert',
    'm4a channels': 'convert',
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
  expect(obstacle(opposed, arFilter, {})).toMatchObject({ code: 'not-legal' });
  expect(obstacle(opposed, arFilter, { mono: 'left' })).toBeNull();
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
