import { memorySource } from '@/core/bytes/source';
import { difference, gainLike, matchingGains } from '@/core/compare/hearing';
import { maybeVoices, pickFew } from '@/core/compare/pick';
import { makeReference } from '@/core/compare/reference';
import { LoudnessMeter } from '@/core/measure/loudness';
import { probe } from '@/core/measure/probe';
import { VoiceMeter } from '@/core/measure/voice/meter';
import { encode } from '../files';
import { noise, sine } from '../signals';

const RATE = 48_000;

test('a few that differ: each kind is found, and every sound once', async () => {
  const sounds = {
    noise: makeReference('pink-noise', { seconds: 2 }),
    tone: makeReference('tone', { seconds: 2 }),
    voice: makeReference('voice', { seconds: 2 }),
    clicks: makeReference('clicks', { seconds: 2 }),
    long: makeReference('chord', { seconds: 4 }),
    spare: makeReference('sweep', { seconds: 1 }),
  };
  const pickable = await Promise.all(
    Object.values(sounds).map(async (channels, id) => {
      const { facts } = await probe(
        memorySource(await encode(channels, RATE, 'wav', { bits: 16 })),
      );
      return { id, facts, spectrum: facts.spectrum };
    }),
  );
  const names = Object.keys(sounds);
  expect(maybeVoices(pickable, 9).map(({ id }) => names[id])).toContain('voice');
  expect(maybeVoices(pickable, 1)).toHaveLength(1);
  const heard = Object.values(sounds).map((channels) => {
    const meter = new VoiceMeter(RATE);
    meter.push(channels);
    return meter.likelihood();
  });
  const told = pickable.map((sound, i) => ({ ...sound, voice: heard[i]! }));
  const picked = pickFew(told).map(({ soundId }) => names[soundId]);
  expect(picked).toEqual(['long', 'noise', 'tone', 'voice', 'clicks']);
  // Where nobody speaks nothing is said to be speech.
  const mute = told.filter((_, i) => names[i] !== 'voice');
  expect(pickFew(mute).some(({ why }) => why.includes('speech'))).toBe(false);
  expect(pickFew([])).toEqual([]);
  expect(pickFew(pickable.slice(0, 1))).toHaveLength(1);
});

test('stretches are matched to 0.1 LU, short ones too, and silence is left alone', () => {
  const lufs = (channels: Float32Array[]) => {
    const meter = new LoudnessMeter({ rateHz: RATE, channelCount: channels.length });
    meter.push(channels);
    return meter.result().lufs!;
  };
  const loud = [noise(RATE, 1, 0.5)];
  const quiet = [sine(RATE, 1_000, RATE, 0.05)];
  const gains = matchingGains([loud, quiet, [new Float32Array(RATE)]], RATE);
  const turned = (channels: Float32Array[], db: number) =>
    channels.map((channel) => channel.map((x) => x * 10 ** (db / 20)));
  expect(Math.abs(lufs(turned(loud, gains[0]!)) - lufs(turned(quiet, gains[1]!)))).toBeLessThan(
    0.1,
  );
  expect(gains[1]).toBe(0);
  expect(gains[2]).toBe(0);
  const third = [noise(RATE, 2, 0.2)];
  const gainDb = gainLike(third, { channels: loud, gainDb: gains[0]! }, RATE);
  expect(Math.abs(lufs(turned(third, gainDb)) - lufs(quiet))).toBeLessThan(0.1);
  const short = matchingGains([[noise(480, 1, 0.5)], [noise(480, 1, 0.25)]], RATE);
  expect(short[0]).toBeCloseTo(-6.02, 1);
});

test('a difference is turned up to be heard, by whole decibels and no more than 60', () => {
  const source = [noise(1_000, 1, 0.5)];
  const decoded = source.map((channel) => channel.map((x, i) => x + (i === 500 ? 0.01 : 0)));
  const found = difference(source, decoded);
  expect(found.gainDb).toBe(28);
  expect(found.channels[0]![500]).toBeCloseTo(0.01, 6);
  expect(difference(source, source)).toMatchObject({ gainDb: 0 });
  expect(
    difference(
      source,
      source.map((c) => c.map((x) => x + 1e-7)),
    ).gainDb,
  ).toBe(60);
});
