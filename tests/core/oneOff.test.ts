import fc from 'fast-check';
import { writers } from '@/core/formats';
import { holdsRate } from '@/core/formats/rates';
import { checkedSettings, writerById } from '@/core/formats/write';
import { changeSentence } from '@/core/oneOff/change';
import { fit } from '@/core/oneOff/fit';
import { ChangeTally } from '@/core/oneOff/tally';
import { gainTogether } from '@/core/oneOff/together';
import { speakersOf } from '@/core/pcm/speakers';
import { shapeAfter } from '@/core/recipe/recipe';

const shape = (rateHz: number, channelCount = 2) => ({ rateHz, channelCount, frames: 1_000 });
const lossy = { codec: 'mp3', bitDepth: null };
const stored = (bitDepth: number, codec = 'pcm') => ({ codec, bitDepth });

test('any sound fits into any format, and nothing is changed that need not be', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...writers.map(({ id }) => id)),
      fc.integer({ min: 1_000, max: 768_000 }),
      fc.constantFrom(...[1, 2, 3, 4, 5, 6, 7, 8].filter((n) => speakersOf(n))),
      fc.constantFrom(
        lossy,
        stored(8),
        stored(12),
        stored(16),
        stored(24),
        stored(32),
        stored(32, 'float'),
        stored(64, 'float'),
      ),
      (writer, rateHz, channels, source) => {
        const kind = writerById(writer);
        const before = shape(rateHz, channels);
        const { steps, settings, changes } = fit(before, source, { writer: kind.id, settings: {} });
        const after = shapeAfter({ version: 1, steps }, before);
        expect(() =>
          checkedSettings(kind, settings, after.rateHz, after.channelCount),
        ).not.toThrow();
        const has = (what: string) => changes.some((change) => change.kind === what);
        expect(has('rate')).toBe(!holdsRate(kind.legal.rates, rateHz));
        expect(has('rate')).toBe(after.rateHz !== rateHz);
        expect(has('channels')).toBe(after.channelCount !== channels);
        // Up where that is possible: nothing of the sound is lost.
        if (has('rate') && after.rateHz < rateHz)
          expect(holdsRate(kind.legal.rates, after.rateHz + 1)).toBe(false);
        for (const change of changes) expect(changeSentence(change)).toMatch(/^[A-Z].+: .+\.$/);
      },
    ),
    { numRuns: 500 },
  );
});

describe('depth', () => {
  const bitsOf = (
    writer: string,
    source: typeof lossy | ReturnType<typeof stored>,
    settings = {},
  ) => (fit(shape(44_100), source, { writer, settings }).settings as { bits: number }).bits;

  test.each([
    ['wav', stored(16), 16],
    ['wav', stored(12), 16],
    ['wav', stored(20), 24],
    ['wav', stored(32), 32],
    ['wav', stored(32, 'float'), 32],
    ['flac', stored(32, 'float'), 24],
    ['flac', stored(8), 8],
    ['wav', lossy, 16],
  ])('%s of %j has %i bits', (writer, source, bits) => {
    expect(bitsOf(writer, source)).toBe(bits);
  });

  test('what was asked for is not looked at again', () => {
    expect(bitsOf('wav', stored(16), { bits: 24 })).toBe(24);
    expect(
      fit(shape(44_100), stored(16), { writer: 'wav', settings: { bits: 8 } }).changes,
    ).toEqual([]);
  });
});

describe('strict', () => {
  test.each([
    ['ogg-opus', shape(44_100), stored(16), /cannot hold 44100 Hz/],
    ['mp3', shape(44_100, 6), stored(16), /cannot hold 6 channels/],
    [
      'flac',
      shape(44_100),
      stored(32, 'float'),
      /It has 32-bit float, and FLAC has no 32-bit float/,
    ],
    ['mp3', shape(8_000), stored(16), /no 192 kbit\/s at 8,000 Hz/],
  ])('%s refuses what it cannot hold', (writer, before, source, sentence) => {
    const wish = { writer, settings: {}, isStrict: true };
    expect(() => fit(before, source, wish)).toThrow(sentence);
  });

  test('what fits is not refused', () => {
    expect(
      fit(shape(48_000), stored(16), { writer: 'ogg-opus', settings: {}, isStrict: true }).changes,
    ).toEqual([]);
  });
});

describe('changes of many files', () => {
  const opus = (rateHz: number) =>
    fit(shape(rateHz), stored(16), { writer: 'ogg-opus', settings: {} }).changes;

  test('one way is one line, with its reason', () => {
    const tally = new ChangeTally();
    for (let n = 0; n < 11; n++) tally.add(opus(44_100));
    expect(tally.lines()).toEqual([
      '11 files resampled from 44,100 to 48,000 Hz: Ogg Opus holds no other.',
    ]);
  });

  test('several ways are counted, the most usual ones first, the rest together', () => {
    const tally = new ChangeTally();
    for (const rate of [8_000, 11_025, 11_025, 22_050, 32_000, 44_100, 44_100, 44_100, 96_000])
      tally.add(opus(rate));
    expect(tally.lines()).toEqual([
      '9 files resampled, from 44,100 to 48,000 Hz (3), from 11,025 to 48,000 Hz (2), from 8,000 to 48,000 Hz (1), ' +
        'from 22,050 to 48,000 Hz (1), 2 other ways: Ogg Opus cannot hold them as they are.',
    ]);
  });

  test('each kind has its line', () => {
    const tally = new ChangeTally();
    tally.add(fit(shape(7_350, 6), stored(16), { writer: 'mp3', settings: {} }).changes);
    expect(tally.lines()).toEqual([
      '1 file resampled from 7,350 to 8,000 Hz: MP3 cannot hold 7,350 Hz.',
      '1 file mixed from 5.1 to stereo: MP3 cannot hold 5.1.',
      '1 file encoded at 64 kbit/s in place of 192 kbit/s: MP3 has no 192 kbit/s at 8,000 Hz.',
    ]);
  });
});

describe('one gain for all', () => {
  const level = (truePeakDbtp: number | null, lufs: number | null) => ({
    peakDbfs: truePeakDbtp,
    truePeakDbtp,
    lufs,
    momentaryLufs: lufs,
  });

  test('brings the loudest to the target, and none beyond the ceiling', () => {
    const levels = [level(-12, -30), level(-6, -20), level(null, null)];
    expect(gainTogether(levels, { to: 'peak', target: -1 })).toBe(5);
    expect(gainTogether(levels, { to: 'lufs', target: -16 })).toBe(4);
    expect(gainTogether(levels, { to: 'lufs', target: -10, ceilingDbtp: -1 })).toBe(5);
  });

  test('silence alone has no level to go by', () => {
    expect(() => gainTogether([level(null, null)], { to: 'peak', target: -1 })).toThrow(
      /None of these/,
    );
  });
});
