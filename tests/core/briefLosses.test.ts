import { builtinTexts } from '@/core/brief/builtin';
import { completeBrief } from '@/core/brief/complete';
import { expectedBytes, sizeKey } from '@/core/brief/expected';
import { remediesFor } from '@/core/brief/fitting';
import { lossesOf, shareAboveDb } from '@/core/brief/losses';
import { needOf } from '@/core/brief/needs';
import type { BriefText } from '@/core/brief/schema';
import { memorySource } from '@/core/bytes/source';
import { probe, unmeasured } from '@/core/measure/probe';
import { encode } from './files';
import { sine } from './signals';

const text = (id: string) => builtinTexts.find((one) => one.id === id)!;
const facts = {
  ...unmeasured,
  container: 'wav',
  codec: 'pcm',
  sampleRateHz: 48_000,
  channels: 2,
  bitDepth: 24,
  frames: 480_000,
  seconds: 10,
  bytes: 2_880_044,
  bitRateKbps: 2_304,
  peakDbfs: -3,
  rmsDbfs: -20,
  correlation: 0.4,
  bandwidthHz: 20_000,
  usedBits: 24,
};
const needed = (brief: BriefText, from: Partial<typeof facts> = {}) => {
  const sound = {
    sourceSha256: 'f',
    facts: { ...facts, ...from },
    warnings: [],
    recipe: { version: 1 as const, steps: [] },
  };
  return needOf(sound, completeBrief(brief), {}).files[0]!;
};

test('what goes is told, and what only seems to go', () => {
  const of = (id: string, from: Partial<typeof facts> = {}) =>
    lossesOf({ ...facts, ...from }, needed(text(id), from), null);
  expect(of('pocket-toy', { seconds: 1, frames: 48_000 } as never)).toEqual([
    'What lies above 5.513 kHz goes.',
    'Where things stand goes: stereo becomes mono.',
    'Depth goes: 24-bit becomes 8-bit, with dither.',
  ]);
  expect(of('wav-master')).toEqual([]);
  expect(of('ar-filter', { bandwidthHz: 9_000, identicalChannels: true } as never)).toEqual([
    'Nothing goes with the lower rate: it ends at 9 kHz.',
    'No channel is lost: all are the same, and stereo becomes mono.',
  ]);
  expect(of('engine-effects', { usedBits: 12 })).toContain(
    'No depth is lost: it uses 12 of its 24 bits.',
  );
  const mp3 = { container: 'mp3', codec: 'mp3', bitDepth: null } as never;
  expect(of('game-mod', mp3)).toEqual([
    'Lossy into lossy: MP3 has lost something already, and Ogg with Vorbis loses again.',
  ]);
  expect(of('web-page', { ...(mp3 as object), sampleRateHz: 44_100 } as never)).toHaveLength(1);
});

test('how much lies above a frequency is told to a decibel, of tones of known levels', async () => {
  const tones = sine(48_000, 1_000, 96_000, 0.5).map(
    (x, i) => x + 0.05 * Math.sin((2 * Math.PI * 15_000 * i) / 48_000),
  );
  const bytes = await encode([tones], 48_000, 'wav', { bits: 24 });
  const { spectrum } = (await probe(memorySource(bytes))).facts;
  // A tenth of the one beside the other: −20 dB, and −20.04 of both.
  expect(shareAboveDb(spectrum!, 11_025)!).toBeCloseTo(-20.04, 1);
  expect(shareAboveDb(spectrum!, 500)!).toBeCloseTo(0, 1);
  expect(shareAboveDb(spectrum!, 20_000)!).toBeLessThan(-80);
});

test('what a file will come to: by its length, by its neighbours, or as is usual', () => {
  const wav = needed(text('wav-master'));
  expect(expectedBytes(wav, facts.bytes, [])).toMatchObject({ basis: 'exact', least: 2_880_000 });
  const ogg = needed(text('game-mod'));
  const usual = expectedBytes(ogg, facts.bytes, []);
  expect(usual.basis).toBe('usual');
  const near = expectedBytes(ogg, facts.bytes, [10_000, 12_000, 14_000]);
  expect(near).toMatchObject({ basis: 'neighbours', least: 100_000, most: 140_500 });
  expect(near.most - near.least).toBeLessThan(usual.most - usual.least);
  expect(sizeKey(ogg)).toBe(sizeKey(needed(text('game-mod'), { frames: 9_600, seconds: 0.2 })));
  expect(sizeKey(ogg)).not.toBe(sizeKey(needed(text('game-mod'), { channels: 1 })));
  expect(sizeKey(ogg)).not.toBe(sizeKey(needed(text('engine-music'))));
});

test('ways to make it smaller begin with the least change, and keep to what the brief takes', () => {
  const brief = completeBrief({
    ...text('web-single'),
    mostBytes: 100_000,
    files: [
      { ...text('web-single').files[0]!, channels: [2, 1], bitRatesKbps: { from: 96, to: 320 } },
    ],
  });
  const sound = {
    sourceSha256: 'f',
    facts,
    warnings: [],
    recipe: { version: 1 as const, steps: [] },
  };
  const file = needOf(sound, brief, {}).files[0]!;
  const ladders = remediesFor(brief, file, { mono: 'left' }, 240_000);
  expect(ladders.map((ladder) => ladder.map(({ label }) => label))).toEqual([
    // As low as the brief allows; it is still too big.
    ['96 kbit/s'],
    ['mono'],
    ['the first 4.1 s', 'the first 4 s', 'the first 3.75 s', 'the first 3.12 s'],
  ]);
  const master = completeBrief({
    ...text('composer-handover'),
    mostBytes: 2_000_000,
  });
  const wav = needOf(sound, master, {}).files[0]!;
  const [depths] = remediesFor(master, wav, {}, 2_880_044).filter(([one]) =>
    /-bit$/.test(one!.label),
  );
  expect(depths).toEqual([{ label: '16-bit', choices: { settings: { wav: { bits: 16 } } } }]);
  const less = needOf(sound, master, depths![0]!.choices).files[0]!;
  expect(less.plan.settings).toEqual({ bits: 16 });
  expect(ladders[0]![0]!.choices).toEqual({ mono: 'left', settings: { mp3: { kbps: 96 } } });
});
