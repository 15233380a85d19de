import { allowedCharacters } from '@/core/pack/characters';
import { callsText, type Call } from '@/core/pack/calls/calls';
import { callProblems, ID_CHARACTERS } from '@/core/pack/calls/check';
import { callsFromNames, type NamedSound } from '@/core/pack/calls/fromNames';
import { pickedPitch, pickedVariant } from '@/core/pack/calls/pick';
import { readIndex } from '@/core/pack/calls/readIndex';

const isId = allowedCharacters(ID_CHARACTERS);
const names = ['gull_1', 'gull 2', 'Gull (3)', 'gull', 'storm 2', 'Möwe', 'bell-01', 'bell-02'];
const sounds = names.map((name, id): NamedSound => ({ id, name, group: '', seconds: 2 }));

function made(way: 'variants' | 'each' | 'folders', list = sounds) {
  return Object.fromEntries(
    callsFromNames(list, way, isId).map(({ id, variants }) => [
      id,
      variants.map(({ soundId }) => soundId),
    ]),
  );
}

test('names make calls: numbers tell variants, or each sound is one, or each group', () => {
  expect(made('variants')).toEqual({
    gull: [0, 1, 2, 3],
    // A number that tells nothing apart is a part of the name.
    storm_2: [4],
    mowe: [5],
    bell: [6, 7],
  });
  expect(Object.keys(made('each'))).toEqual([
    ...['gull_1', 'gull_2', 'gull_3', 'gull', 'storm_2', 'mowe', 'bell-01', 'bell-02'],
  ]);
  const grouped = sounds.map((sound) => ({ ...sound, group: sound.id < 4 ? 'Birds/near' : '' }));
  expect(made('folders', grouped)).toEqual({
    'birds/near': [0, 1, 2, 3],
    storm_2: [4],
    mowe: [5],
    'bell-01': [6],
    'bell-02': [7],
  });
  expect(made('variants', grouped)['birds/near/gull']).toEqual([0, 1, 2, 3]);
});

test('what makes no id of its own gets one; those that meet are numbered; long ones are read piecewise', () => {
  const odd = ['漢字', '!!!', '???'].map((name, id) => ({ id, name, group: '', seconds: 20 }));
  const calls = callsFromNames(odd, 'each', isId);
  expect(calls.map(({ id }) => id)).toEqual(['sound', 'sound_2', 'sound_3']);
  expect(calls[0]).toMatchObject({ read: 'piecewise', levelDb: 0, pitch: [1, 1] });
  const upper = callsFromNames(sounds.slice(0, 1), 'each', allowedCharacters('A-Z0-9_'));
  expect(upper[0]!.id).toBe('GULL_1');
});

const right: Call = {
  id: 'gull/near',
  variants: [{ soundId: 1, odds: 1 }],
  levelDb: 0,
  pitch: [0.9, 1.1],
  read: 'whole',
};

test.each<[string, Partial<Call>, RegExp]>([
  ['capital letters', { id: 'Gull' }, /capital letters \(G\)/],
  ['quotation marks', { id: 'a"b' }, /may not be in an id/],
  ['tags', { id: '<b>' }, /may not be in an id/],
  ['control characters', { id: 'a\u0000b' }, /a\\u0000b.*may not/],
  ['blanks', { id: 'a b' }, /a blank/],
  ['no id', { id: '' }, /no id/],
  ['an empty part', { id: 'a//b' }, /without a name/],
  ['a very long id', { id: 'a'.repeat(81) }, /longer than 80/],
  ['no variant', { variants: [] }, /would be silent/],
  ['odds of nothing', { variants: [{ soundId: 1, odds: 0 }] }, /All odds/],
  ['negative odds', { variants: [{ soundId: 1, odds: -1 }] }, /Odds in/],
  ['a level out of range', { levelDb: 13 }, /not from -60 to 12 dB/],
  ['a pitch the wrong way round', { pitch: [2, 1] }, /higher factor first/],
  ['a pitch out of range', { pitch: [0.1, 1] }, /two factors from 0.25 to 4/],
  ['half a pitch', { pitch: [1] as unknown as [number, number] }, /two factors/],
  ['another way of reading', { read: 'toString' as 'whole' }, /neither “whole” nor/],
])('a call with %s is told', (_, change, message) => {
  const problems = callProblems([{ ...right, ...change }], isId);
  expect(problems[0]!.message).toMatch(message);
  expect(problems[0]!.index).toBe(0);
});

test('doubles are told, also those that only case tells apart; 10,000 calls are no trouble', () => {
  const double = (id: string) => callProblems([right, { ...right, id }], () => true);
  expect(double('gull/near')[0]).toMatchObject({
    index: 1,
    message: '“gull/near” is there twice.',
  });
  expect(double('Gull/near')[0]!.message).toMatch(/same as “gull\/near” but for its case/);
  const many = Array.from({ length: 10_000 }, (_, i) => ({ ...right, id: `c${i}` }));
  expect(callProblems(many, isId)).toEqual([]);
  const tooMany = Array.from({ length: 20_001 }, (_, i) => ({ ...right, id: `c${i}` }));
  expect(callProblems(tooMany, isId)[0]!.message).toMatch(/20,001 calls/);
});

test('a variant is picked as often as its odds say, and pitch stays within its span', () => {
  const call = { variants: [1, 0, 3].map((odds, soundId) => ({ soundId, odds })) };
  const counts = [0, 0, 0];
  for (let i = 0; i < 4_000; i++) counts[pickedVariant(call, i / 4_000)!.soundId]!++;
  expect(counts).toEqual([1_000, 0, 3_000]);
  expect(pickedVariant({ variants: [] }, 0.5)).toBeNull();
  expect(pickedVariant({ variants: [{ odds: 0 }] }, 0.5)).toBeNull();
  expect(pickedPitch({ pitch: [0.5, 2] }, 0)).toBe(0.5);
  expect(pickedPitch({ pitch: [0.5, 2] }, 0.5)).toBe(1);
  expect(pickedPitch({ pitch: [0.5, 2] }, 1)).toBe(2);
});

describe('an index', () => {
  const index = [
    { ...right, variants: [{ path: 'gull_1.ogg', odds: 1 }] },
    { ...right, id: 'storm', variants: [{ path: 'sea/storm.ogg', odds: 2 }] },
  ];

  test('of ours is read as it was written', () => {
    const report = readIndex(callsText(index), ['gull_1.ogg', 'sea/storm.ogg']);
    expect(report).toMatchObject({ problems: [], missing: [], unused: [], index });
    expect(report.calls).toEqual([
      { id: 'gull/near', files: ['gull_1.ogg'] },
      { id: 'storm', files: ['sea/storm.ogg'] },
    ]);
  });

  test('is held against the files that there are', () => {
    const there = ['gull_1.ogg', 'sea/bell.ogg', 'readme.txt'];
    const report = readIndex(callsText(index), there);
    expect(report.missing).toEqual(['sea/storm.ogg']);
    expect(report.unused).toEqual(['sea/bell.ogg']);
    // Letters in another form of Unicode are the same file on disks.
    const composed = callsText([{ ...index[0]!, variants: [{ path: 'mo\u0308we.ogg', odds: 1 }] }]);
    expect(readIndex(composed, ['m\u00f6we.ogg'])).toMatchObject({ missing: [], unused: [] });
  });

  test('is told what is wrong in it with line and column, also where JSON cannot see it', () => {
    const text = callsText([
      { ...index[0]!, id: 'Gull' },
      { ...index[1]!, pitch: [2, 1] },
    ]);
    const { problems } = readIndex(text.replace('0.9,', '0.9'), null);
    expect(problems.map(({ line, column, message }) => [line, column, message])).toEqual([
      [13, 12, 'a comma is missing behind line 13'],
      [4, 13, '“Gull” has capital letters (G); ids are in small ones.'],
      [27, 16, 'The pitch of “storm” has its higher factor first.'],
    ]);
    // Two numbers that became one are still JSON.
    const joined = readIndex(JSON.stringify({ calls: index }).replace('0.9,1.1', '0.911'), null);
    expect(joined.problems[0]!.message).toMatch(/not two factors/);
  });

  test('of anybody else is any JSON that names files', () => {
    const foreign = {
      version: 2,
      gull: { sounds: ['a.ogg', { file: 'b.WAV', name: 'near' }], note: 'no file.' },
      list: [{ id: 'storm', src: 'sea/s.mp3' }],
      loose: 'c.flac',
    };
    const report = readIndex(JSON.stringify(foreign), ['a.ogg', 'd.ogg']);
    expect(report.calls).toEqual([
      { id: 'gull', files: ['a.ogg'] },
      { id: 'near', files: ['b.WAV'] },
      { id: 'storm', files: ['sea/s.mp3'] },
      { id: 'loose', files: ['c.flac'] },
    ]);
    expect(report.missing).toEqual(['b.WAV', 'sea/s.mp3', 'c.flac']);
    expect(report.unused).toEqual(['d.ogg']);
    expect(report.index).toBeNull();
  });

  test.each([
    ['{"calls": 3}'],
    ['{"calls": [1, null, "x", []]}'],
    ['{"calls": [{"id": {}, "variants": {}, "pitch": "x", "levelDb": "1", "read": 3}]}'],
    ['{"calls": [{"__proto__": {"id": "x"}, "variants": [{"path": 5, "odds": "y"}]}]}'],
    ['null'],
  ])('%s is no trap', (text) => {
    expect(() => readIndex(text, [])).not.toThrow();
  });
});
