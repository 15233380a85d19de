import fc from 'fast-check';
import type { NameDemands } from '@/core/brief/schema';
import { allowedCharacters, inCharacters } from '@/core/pack/characters';
import { cleaned, givenNames, type NamingDemands } from '@/core/pack/naming';

const file = (demands: NamingDemands, name: string, more: object = {}, ending = 'ogg') => ({
  demands,
  place: 'mod',
  ending,
  values: {
    name,
    group: 'creatures/birds',
    number: 7,
    format: 'ogg',
    language: 'en',
    prefix: '',
    ...more,
  },
});
const paths = (demands: NamingDemands, ...names: string[]) =>
  givenNames(names.map((name) => file(demands, name))).map(({ path }) => path);

test.each<[NamingDemands, string, string]>([
  [{}, 'Door latch', 'Door latch.ogg'],
  [
    { names: { case: 'lower', characters: 'a-z0-9_', joiner: '_' } },
    'Mövenschrei №2 (nah)',
    'movenschrei_no2_nah.ogg',
  ],
  [{ names: { case: 'upper', characters: 'A-Z0-9-' } }, 'großes tor', 'GROSSES-TOR.ogg'],
  [{ names: { characters: 'a-z', joiner: '' } }, '1st gull!', 'stgull.ogg'],
  [{ names: { pattern: '{number:3} {name}-{format}' } }, 'gull', '007 gull-ogg.ogg'],
  [{ names: { pattern: '{group}_{name}' } }, 'gull', 'creatures-birds_gull.ogg'],
  [{ names: { pattern: 'gull_near' } }, 'whatever', 'gull_near.ogg'],
  [{ folder: '{group}/{language}' }, 'gull', 'creatures/birds/en/gull.ogg'],
  [{ folder: '../{group}' }, 'gull', 'sound/creatures/birds/gull.ogg'],
  [{ names: { longest: 12 } }, 'a very long name', 'a very l.ogg'],
  [{ names: { characters: 'a-z' } }, '灯台', 'sound.ogg'],
])('%j makes of “%s” %s', (demands, name, path) => {
  expect(paths(demands, name)).toEqual([path]);
});

test('those that meet after cleaning are numbered, within their length, or said to meet', () => {
  const demands: NamingDemands = { names: { case: 'lower', characters: 'a-z0-9', longest: 8 } };
  const given = paths(demands, 'Gull', 'gull', 'gúll', 'gull cry far', 'gull cry near');
  expect(new Set(given).size).toBe(5);
  expect(given.every((path) => path.length <= 8)).toBe(true);
  const refused = givenNames(
    ['Gull', 'gull', 'bell'].map((name) =>
      file({ names: { case: 'lower', meeting: 'refuse' } }, name),
    ),
  );
  expect(refused.map(({ path, meets }) => [path, meets])).toEqual([
    ['gull.ogg', true],
    ['gull.ogg', true],
    ['bell.ogg', false],
  ]);
});

test.each([
  ['{group}_{name}', 'gull.ogg'],
  ['{name} - {group}', 'gull.ogg'],
  ['{group}_{name}_{language}.{number}', 'gull_en.7.ogg'],
  ['{name}_{group}_{language}', 'gull_en.ogg'],
  ['{group}', 'sound.ogg'],
])('what is empty in %s leaves nothing that would part it', (pattern, path) => {
  expect(givenNames([file({ names: { pattern } }, 'gull', { group: '' })])[0]!.path).toBe(path);
});

test('a choice for one sound stands above the pattern; a prefix stands in front or where it belongs', () => {
  const [own, front, placed] = givenNames([
    { ...file({ names: { pattern: '{group} {name}' } }, 'gull'), own: 'seagull' },
    file({}, 'gull', { prefix: 'z_' }),
    file({ names: { pattern: '{name}{prefix}' } }, 'gull', { prefix: '_z' }),
  ]);
  expect([own!.path, front!.path, placed!.path]).toEqual([
    'seagull.ogg',
    'z_gull.ogg',
    'gull_z.ogg',
  ]);
});

const demandOf = fc.record(
  {
    case: fc.constantFrom('lower' as const, 'upper' as const),
    characters: fc.constantFrom('a-zA-Z0-9_-', 'A-Za-z', 'A-Za-z0-9. -'),
    longest: fc.integer({ min: 10, max: 40 }),
  },
  { requiredKeys: [] },
);

test('whatever sounds are called, their files are told apart, fit, and stay in their folder', () => {
  fc.assert(
    fc.property(
      fc.array(fc.string({ unit: 'grapheme', maxLength: 30 }), { minLength: 1, maxLength: 12 }),
      demandOf,
      (names, demand: NameDemands) => {
        const given = paths({ names: demand, folder: '{group}' }, ...names);
        const keys = given.map((path) => path.normalize('NFC').toLowerCase());
        expect(new Set(keys).size).toBe(given.length);
        for (const path of given) {
          const name = path.split('/').at(-1)!;
          const folders = ['creatures', 'birds'].map((part) => cleaned(part, demand));
          expect(path).toBe([...folders, name].join('/'));
          expect([...name].length).toBeLessThanOrEqual(demand.longest ?? 255);
          expect(name.slice(0, -4)).not.toMatch(/[/\\:*?"<>|\p{Cc}]|^\.|^\s*$/u);
          const isAllowed = allowedCharacters(demand.characters ?? '\u0000-\u{10ffff}');
          expect([...name.slice(0, -4)].filter((one) => !isAllowed(one))).toEqual([]);
        }
      },
    ),
    { numRuns: 200 },
  );
});

test('marks come off letters, and what is left over is one joiner, none at the ends', () => {
  const isAllowed = allowedCharacters('a-z');
  expect(inCharacters('ça – va?', isAllowed, '_')).toBe('ca_va');
  expect(inCharacters('––æøłß––', isAllowed, '_')).toBe('aeolss');
  expect(inCharacters('…', isAllowed, '_')).toBe('');
});
