import { legalKbps } from '@/core/formats/mp3/writer';
import { filledSettings, writerById } from '@/core/formats/write';
import { noMarks } from '@/core/marks';

/** What every writer can be told, at its edges. */

test.each([
  ['wav', { bits: 24 }],
  ['wav-ima-adpcm', {}],
  ['aiff', { bits: 24 }],
  ['flac', { bits: 24, level: 5 }],
  ['mp3', {}],
  ['ogg', { quality: 5 }],
  ['ogg-opus', { kbps: 96 }],
  ['webm', { kbps: 96 }],
  ['m4a', { kbps: 128 }],
  ['raw', { encoding: 's16le' }],
  ['c', { encoding: 's16le', name: 'sound' }],
])('%s has usual ones', (id, wanted) => {
  expect(JSON.parse(JSON.stringify(filledSettings(writerById(id), {})))).toEqual(wanted);
  expect(() => filledSettings(writerById(id), { other: 1 })).toThrow();
});

test.each([
  [
    'wav',
    [{ bits: 8 }, { bits: 16 }, { bits: 32 }],
    [{ bits: 12 }, { bits: '16' }, { bits: null }],
  ],
  ['aiff', [{ bits: 8 }, { bits: 16 }, { bits: 24 }], [{ bits: 12 }, { bits: 32 }]],
  [
    'flac',
    [{ bits: 16, level: 0 }, { level: 8 }],
    [{ bits: 12 }, { level: 9 }, { level: -1 }, { level: 2.5 }],
  ],
  [
    'mp3',
    [{ kbps: 8 }, { kbps: 320 }, { quality: 0 }, { quality: 9 }, { quality: 4.5 }],
    [{ kbps: 128.5 }, { quality: -1 }, { quality: 10 }, { kbps: 128, quality: 4 }],
  ],
  [
    'ogg',
    [{ quality: -1 }, { quality: 10 }, { quality: 0.5 }],
    [{ quality: -1.1 }, { quality: 10.1 }],
  ],
  ['ogg-opus', [{ kbps: 6 }, { kbps: 256 }, { kbps: 24.5 }], [{ kbps: 5 }, { kbps: 257 }]],
  ['m4a', [{ kbps: 16 }, { kbps: 512 }], [{ kbps: 15 }, { kbps: 513 }, { kbps: 64.5 }]],
  ['raw', [{ encoding: 'u8' }, { encoding: 's8' }], [{ encoding: 's24le' }, { encoding: '' }]],
  [
    'c',
    [{ name: '_a9' }, { name: 'x'.repeat(63) }],
    [{ name: '9a' }, { name: 'a-b' }, { name: '' }, { name: 'x'.repeat(64) }],
  ],
])('%s takes what it has, and nothing else', (id, good, bad) => {
  const writer = writerById(id);
  for (const settings of good) expect(filledSettings(writer, settings)).toMatchObject(settings);
  for (const settings of bad) {
    expect([settings, refusal(() => filledSettings(writer, settings))]).toEqual([
      settings,
      'bad-setting',
    ]);
  }
});

test('and are told in words', () => {
  const told = (id: string, settings: Record<string, unknown>) => writerById(id).describe(settings);
  expect(told('wav', { bits: 32 })).toBe('32-bit float');
  expect(told('wav', { bits: 16 })).toBe('16-bit PCM');
  expect(told('mp3', {})).toBe('192 kbit/s');
  expect(told('mp3', { kbps: 64 })).toBe('64 kbit/s');
  expect(told('mp3', { quality: 0 })).toBe('variable bit rate, quality 0');
  expect(told('flac', { bits: 16, level: 0 })).toBe('16-bit, level 0');
  expect(told('raw', { encoding: 's8' })).toBe('8-bit signed');
});

test('bit rates go by the sample rate', () => {
  expect(legalKbps(8_000)).toEqual([8, 16, 24, 32, 40, 48, 64]);
  expect(legalKbps(12_000)).toEqual(legalKbps(8_000));
  expect(legalKbps(16_000)).toEqual([8, 16, 24, 32, 40, 48, 64, 80, 96, 112, 128, 160]);
  expect(legalKbps(24_000)).toEqual(legalKbps(16_000));
  expect(legalKbps(32_000)).toEqual([32, 40, 48, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320]);
  for (const [kbps, rateHz] of [
    [128, 8_000],
    [192, 24_000],
    [8, 44_100],
    [56, 44_100],
  ] as const) {
    expect(writerById('mp3').refuses!({ kbps }, rateHz, 2)).toMatch(
      `MP3 at ${rateHz} Hz has no bit rate of ${kbps} kbit/s; it has ${legalKbps(rateHz).join(', ')}.`,
    );
    expect(writerById('mp3').refuses!({ quality: 4 }, rateHz, 2)).toBeNull();
    expect(writerById('mp3').refuses!({ kbps: 64 }, rateHz, 2)).toBeNull();
  }
  const refused = (kbps: number, rateHz: number, channels: number) =>
    writerById('m4a').refuses!({ kbps }, rateHz, channels);
  for (const [rateHz, channels, least, most] of [
    [24_000, 1, 16, 144],
    [24_000, 2, 16, 288],
    [44_100, 1, 16, 264],
    [48_000, 2, 24, 576],
    [64_000, 1, 24, 384],
    [96_000, 2, 32, 1152],
  ] as const) {
    expect([rateHz, refused(least, rateHz, channels)]).toEqual([rateHz, null]);
    expect(refused(least - 1, rateHz, channels)).toMatch(`begins at ${least} kbit/s.`);
    expect(refused(most, rateHz, channels)).toBeNull();
    expect(refused(most + 1, rateHz, channels)).toMatch(
      `AAC at ${rateHz} Hz with ${channels} ${channels === 1 ? 'channel' : 'channels'} ends at ${most} kbit/s.`,
    );
  }
  const { loses } = writerById('m4a');
  const lost = (track?: string) =>
    loses!({ ...noMarks, tags: track === undefined ? {} : { track } });
  expect([lost(), lost('7'), lost('7/12')]).toEqual([[], [], []]);
  expect(lost('side A')).toEqual(['the track "side A", which is no number']);
});

/** The code of the error that a call ends with. */
function refusal(call: () => unknown): string | null {
  try {
    call();
    return null;
  } catch (error) {
    return (error as { code: string }).code;
  }
}
