import fc from 'fast-check';
import { diskKey } from '@/core/pack/diskKey';
import { slottedSounds } from '@/core/pack/input';
import { safeFileName } from '@/core/pack/names';
import { allowedCharacters } from '@/core/pack/characters';
import { givenNames, namesMeet } from '@/core/pack/naming';
import { meetings, namingProblem, pathProblem } from '@/core/pack/paths';
import { partFile } from './making';

const deep = (parts: number) => Array.from({ length: parts }, () => 'a').join('/');

describe('a path', () => {
  test.each<[string, RegExp]>([
    ['', /no name/],
    ['/a', /no name/],
    ['a//b', /no name/],
    ['a/', /no name/],
    [deep(25), /more than 23 folders/],
    ['a\\b', /plain slashes/],
    ['c:/a', /plain slashes/],
    ['Z:a', /plain slashes/],
    ['ab:c', /“ab:c” is no name/],
    ['a/../b', /leads out/],
    ['./a', /leads out/],
    ['a/con.ogg', /“con.ogg” is no name/],
    ['a/b?', /“b\?” is no name/],
    [`${'é'.repeat(128)}`, /is no name/],
    [Array.from({ length: 6 }, () => 'ö'.repeat(90)).join('/'), /too long/],
  ])('%s leads nowhere', (path, problem) => {
    expect(pathProblem(path)).toMatch(problem);
  });

  test.each(['a', 'a/b.ogg', deep(24), 'x'.repeat(230), 'é'.repeat(115)])(
    '%s leads to its place',
    (path) => expect(pathProblem(path)).toBeNull(),
  );

  test('is held against the bytes that it takes, however many its letters have', () => {
    // 1,000 bytes of UTF-8, and one more.
    const long = (tail: string) =>
      [...Array.from({ length: 5 }, () => 'é'.repeat(99)), tail].join('/');
    expect(new TextEncoder().encode(long('éééé')).length).toBe(1_003);
    expect(pathProblem(long('éééé'))).toBe('It is too long.');
    expect(pathProblem(long('éé'))).toBeNull();
  });

  test('is spelled as its destination demands, folders too', () => {
    const names = { case: 'lower', characters: 'a-z_', longest: 10 } as const;
    expect(namingProblem('sea/gull.ogg', names)).toBeNull();
    expect(namingProblem('Sea/gull.ogg', names)).toMatch(/“Sea” is not spelled/);
    expect(namingProblem('sea/Gull.ogg', names)).toMatch(/“Gull” is not spelled/);
    expect(namingProblem('sea/gulls2.ogg', names)).toMatch(/“gulls2” is not/);
    // Ten letters with the ending, and one more.
    expect(namingProblem('gullab.ogg', names)).toBeNull();
    expect(namingProblem('gullabc.ogg', names)).toMatch(/longer than 10 characters/);
    // A dot in front parts nothing: all of it is the name.
    expect(namingProblem('.ogg', { characters: 'a-z' })).toMatch(/“.ogg” is not spelled/);
    expect(namingProblem('gull', names)).toBeNull();
    expect(namingProblem('Whatever It Is', undefined)).toBeNull();
  });

  test('tells apart what disks tell apart', () => {
    expect(diskKey('Gull.OGG')).toBe('gull.ogg');
    expect(diskKey('straße')).toBe(diskKey('STRASSE'));
    expect(diskKey('gu\u00adll')).toBe('gull');
    expect(diskKey('e\u0301')).toBe(diskKey('É'));
    expect(diskKey('gull 1')).not.toBe(diskKey('gull1'));
    fc.assert(
      fc.property(fc.string(), (path) => {
        const long = path.normalize('NFKC').toUpperCase().normalize('NFKC').toLowerCase();
        // The short way for plain letters says the same as the long one.
        if (/^[\x20-\x7e]*$/.test(path)) expect(diskKey(path)).toBe(long);
        expect(diskKey(diskKey(path))).toBe(diskKey(path));
      }),
    );
  });

  test('meets others, and folders that are called as it is', () => {
    const at = (path: string, soundId?: number) => ({ path, briefId: 'isle', soundId });
    expect(meetings([at('a/b.ogg', 1), at('a/c.ogg', 2)])).toEqual([]);
    expect(meetings([at('a.ogg', 1), at('A.ogg', 2)])).toEqual([
      {
        ...{ weight: 'wrong', about: 'name', briefId: 'isle', path: 'A.ogg', soundId: 2 },
        message: '“A.ogg” and “a.ogg” would be one file on many disks.',
        hint: 'Give one of them another name.',
      },
    ]);
    const [same] = meetings([at('a.ogg', 1), at('a.ogg')]);
    expect(same).toMatchObject({ message: 'Two files would be “a.ogg”.', path: 'a.ogg' });
    expect('soundId' in same!).toBe(false);
    const folder = meetings([at('a/b/c.ogg', 1), at('A/d.ogg', 3), at('a', 2), at('a/B', 4)]);
    expect(folder.map(({ message }) => message)).toEqual([
      '“a” is a file, and a folder for “a/b/c.ogg”.',
      '“a/B” is a file, and a folder for “a/b/c.ogg”.',
    ]);
  });
});

describe('names of files', () => {
  const file = (name: string, more: object = {}) => ({
    ...{ demands: {}, place: 'isle', ending: 'ogg' },
    values: { name, group: '', number: 1, format: 'ogg', language: '', prefix: '' },
    ...more,
  });

  test('in slots are theirs, and others pass over them', () => {
    const given = givenNames([
      file('surf'),
      file('other', { slots: ['surf.ogg', 'places/cave.ogg'] }),
      file('surf'),
    ]);
    expect(given).toMatchObject([
      { path: 'surf-2.ogg', paths: ['surf-2.ogg'], passed: true, meets: false },
      {
        ...{ path: 'surf.ogg', name: 'surf.ogg', paths: ['surf.ogg', 'places/cave.ogg'] },
        ...{ wanted: '', key: '', passed: false, meets: false },
      },
      { path: 'surf-3.ogg' },
    ]);
    const [deepSlot] = givenNames([file('x', { slots: ['places/cave.ogg'] })]);
    expect(deepSlot!.name).toBe('cave.ogg');
  });

  test('of one name are counted; only who passes over another name says so', () => {
    const given = givenNames([file('a'), file('a'), file('a-2'), file('a', { place: 'other' })]);
    expect(given.map(({ path, passed }) => [path, passed])).toEqual([
      ['a.ogg', false],
      ['a-2.ogg', false],
      ['a-2-2.ogg', true],
      ['a.ogg', false],
    ]);
    expect(given[1]!.wanted).toBe(given[0]!.wanted);
    expect(given[1]!.key).not.toBe(given[1]!.wanted);
    expect(given[0]!.key).toBe(given[0]!.wanted);
  });

  test('are counted in letters where there are no figures', () => {
    const demands = { names: { characters: 'a-z-' } };
    const given = givenNames(Array.from({ length: 54 }, () => file('gull', { demands })));
    const names = given.map(({ name }) => name);
    expect([names[0], names[1], names[25], names[26], names[27], names[52], names[53]]).toEqual([
      ...['gull.ogg', 'gull-b.ogg', 'gull-z.ogg', 'gull-aa.ogg', 'gull-ab.ogg'],
      ...['gull-ba.ogg', 'gull-bb.ogg'],
    ]);
  });

  test('are cut where they are too long, and not where they just fit; without ending no dot', () => {
    const named = (name: string, longest: number, ending = 'ogg') =>
      givenNames([file(name, { demands: { names: { longest } }, ending })])[0]!.name;
    expect(named('abcdef', 10)).toBe('abcdef.ogg');
    expect(named('abcdefg', 10)).toBe('abcdef.ogg');
    expect(named('abcde fg', 10)).toBe('abcde.ogg');
    expect(named(' abc', 10)).toBe('abc.ogg');
    expect(named('abc', 10, '')).toBe('abc');
  });

  test('that meet are said in a sentence', () => {
    expect(namesMeet('a.ogg')).toMatchObject({
      code: 'already-there',
      message: expect.stringContaining('“a.ogg”'),
    });
  });

  test('that are plain stay, whatever their length allows; others are made safe', () => {
    expect(safeFileName('a'.repeat(230))).toBe('a'.repeat(230));
    expect(safeFileName('a'.repeat(231))).toBe('a'.repeat(230));
    expect(safeFileName('a'.repeat(400))).toBe('a'.repeat(230));
    expect(safeFileName('con')).toBe('sound con');
    expect(safeFileName('gull near.2')).toBe('gull near.2');
    expect(safeFileName(' gull.')).toBe('gull');
  });

  test('ranges of characters run forwards', () => {
    expect(allowedCharacters('a-a')('a')).toBe(true);
    expect(() => allowedCharacters('0-9z-a')).toThrow('The range "z-a" runs backwards.');
    const hyphen = allowedCharacters('a-z-');
    expect([...'az-'].map(hyphen)).toEqual([true, true, true]);
    expect([...'A_0'].map(hyphen)).toEqual([false, false, false]);
    expect(allowedCharacters('')('a')).toBe(false);
  });
});

test('each sound has the paths and slots of all of its files, once', () => {
  const [one, two] = [
    partFile(1, 'a.ogg', { slots: ['x', 'y'] }),
    partFile(1, 'a.mp3', { slots: ['x'] }),
  ];
  const other = partFile(2, 'b.ogg');
  expect(slottedSounds([one, other, two])).toEqual([
    { soundId: 1, name: 'a', group: '', seconds: 2, paths: ['x', 'y', 'x'], slots: ['x', 'y'] },
    { soundId: 2, name: 'b', group: '', seconds: 2, paths: ['b.ogg'], slots: [] },
  ]);
});
