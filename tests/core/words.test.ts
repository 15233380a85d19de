import fc from 'fast-check';
import { pathInPack } from '@/core/pack/layout';
import { givenNames } from '@/core/pack/naming';
import { freeName, freeSoundName, safeFileName, soundName, soundNameFrom } from '@/core/pack/names';
import { formatTime, parseTime } from '@/core/time';
import { formatName, kilohertz, layoutName } from '@/core/tradeNames';

describe('times', () => {
  test.each([
    ['5', 220_500],
    ['5s', 220_500],
    ['0.25', 11_025],
    ['0:05', 220_500],
    ['0:05.250', 231_525],
    ['1:02:03', 3_723 * 44_100],
    ['220500f', 220_500],
    [' 0 ', 0],
  ])('%s is frame %i at 44.1 kHz', (typed, frame) => {
    expect(parseTime(typed, 44_100).frame).toBe(frame);
  });

  test.each([
    '',
    '-5',
    '1,5',
    '0:5',
    '0:60',
    '5m',
    'abc',
    '1:2:3:4',
    '5f5',
    '1e3',
    'NaN',
    '0:05:',
    '.',
  ])('"%s" is refused with a hint', (typed) => {
    expect(() => parseTime(typed, 44_100)).toThrow(expect.objectContaining({ code: 'bad-time' }));
  });

  test('what is shown can be typed again', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 3_500_000 }), (milliseconds) => {
        expect(parseTime(formatTime(milliseconds / 1000), 1000).frame).toBe(milliseconds);
      }),
    );
  });
});

describe('names', () => {
  test('come out of paths without their folders', () => {
    expect(soundNameFrom('../../etc/passwd.wav')).toBe('passwd');
    expect(soundNameFrom('C:\\sounds\\bell.one.mp3')).toBe('bell.one');
    expect(soundNameFrom('gull 🐦 "loud".wav')).toBe('gull 🐦 "loud"');
    expect(soundNameFrom('')).toBe('sound');
    // Whole letters, in as many bytes as leave room for an ending and a number.
    expect(soundNameFrom(`${'é'.repeat(300)}.wav`)).toBe('é'.repeat(115));
    expect(soundNameFrom(`${'a'.repeat(200)}.wav`)).toBe('a'.repeat(200));
  });

  test('that were typed keep their dots and slashes', () => {
    expect(soundName('take 1/2 (v.3)')).toBe('take 1/2 (v.3)');
    expect(soundName(' \u202egnp\u0007 ')).toBe('gnp');
    expect(soundName('\n')).toBe('sound');
  });

  test('any name becomes one that every file system takes', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 300 }), (name) => {
        const safe = safeFileName(name);
        expect(safe).toMatch(/^[^/\\:*?"<>|\u0000-\u001f]+$/u);
        expect(safe).not.toMatch(/^\.|\.$|^ | $/);
        expect(safe.length).toBeGreaterThan(0);
      }),
      { numRuns: 500 },
    );
  });

  test('are numbered when taken, without regard to case', () => {
    const taken = new Set<string>();
    expect(['Bell', 'bell', 'BELL'].map((name) => freeName(name, 'ogg', taken))).toEqual([
      'Bell.ogg',
      'bell-2.ogg',
      'BELL-3.ogg',
    ]);
  });

  test('of sounds are numbered from two on, and only where exactly that name is taken', () => {
    expect(freeSoundName('bell', [])).toBe('bell');
    expect(freeSoundName('bell', ['Bell', 'bells'])).toBe('bell');
    expect(freeSoundName('bell', ['bell', 'bell 2', 'bell 4'])).toBe('bell 3');
  });

  test('lose dots and blanks at their ends, however many, and are otherwise kept', () => {
    expect(safeFileName('..  .hidden')).toBe('hidden');
    expect(safeFileName('bell. . .')).toBe('bell');
    expect(safeFileName('  two  words  ')).toBe('two  words');
    expect(soundNameFrom('.wav')).toBe('.wav');
    expect(soundNameFrom('.bell.wav')).toBe('.bell');
    expect(soundNameFrom('bell')).toBe('bell');
    // Cut in the middle of a word, no blank is left at the end.
    expect(soundName(`${'a'.repeat(229)} b`)).toBe('a'.repeat(229));
  });

  test('in a pack are given brief by brief, in the order of the files; other endings do not meet', () => {
    const file = (place: string, name: string, ending: string) => ({
      demands: {},
      place,
      ending,
      values: { name, group: '', number: 1, format: '', language: '', prefix: '' },
    });
    expect(
      givenNames([
        file('web-page', 'bell', 'ogg'),
        file('web-page', 'bell', 'mp3'),
        file('archive', 'Bell', 'ogg'),
        file('web-page', 'Bell', 'ogg'),
        file('web-page', 'a/b', 'ogg'),
      ]).map(({ path }) => path),
    ).toEqual(['bell.ogg', 'bell.mp3', 'Bell.ogg', 'Bell-2.ogg', 'a-b.ogg']);
    expect(pathInPack('web-page', 'bell.ogg')).toBe('web-page/bell.ogg');
  });
});

test('formats, layouts and rates have one name everywhere', () => {
  expect(formatName('ogg', 'vorbis')).toBe('Ogg with Vorbis');
  expect(formatName('mp3', 'mp3')).toBe('MP3');
  expect(formatName('xyz', 'abc')).toBe('xyz with abc');
  expect([1, 2, 6].map(layoutName)).toEqual(['mono', 'stereo', '5.1']);
  expect([8_000, 11_025, 44_100, 22_050].map(kilohertz)).toEqual([
    '8 kHz',
    '11.025 kHz',
    '44.1 kHz',
    '22.05 kHz',
  ]);
});

const numbered = ['com', 'LPT'].flatMap((port) => [...'0123456789¹²³'].map((n) => `${port}${n}`));

test.each([
  ...numbered,
  ...['CON', 'con.old', 'CONIN$', 'conout$.txt', 'clock$', 'PRN.', 'Aux .wav', 'com1.tar', 'nul.'],
])('%s is a device on one common system, and no name of a file', (name) => {
  expect(safeFileName(name)).toMatch(/^sound /);
});

test.each(['console', 'auxiliary', 'com10', 'the con', 'nul2', 'com', 'comx', 'lpt12', 'con-1'])(
  '%s is a name like any other',
  (name) => {
    expect(safeFileName(name)).toBe(name);
  },
);

test('names of files keep to 255 bytes, numbered and with their endings', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme', maxLength: 400 }), (name) => {
      const taken = new Set<string>();
      const made = Array.from({ length: 12 }, () => freeName(name, 'webm', taken));
      expect(new Set(made.map((one) => one.toLowerCase())).size).toBe(12);
      for (const one of made) {
        expect(Buffer.byteLength(one)).toBeLessThanOrEqual(255);
        expect(one).toMatch(/[^. ](-\d+)?\.webm$/);
        expect(one).not.toMatch(/[/\\:*?"<>|]/);
      }
    }),
  );
});
