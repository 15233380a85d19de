import { PNG } from 'pngjs';
import type { Layout } from '@/core/brief/layout';
import type { PartInput } from '@/core/pack/input';
import { isRight, packPlan } from '@/core/pack/plan';
import { slotsByName } from '@/core/pack/slots';
import { briefWith, part, partFile } from './making';

const slots = [
  { path: 'places/shore.ogg', title: 'the shore' },
  { path: 'places/cave.ogg', isOptional: true },
];
const told = (input: PartInput) =>
  packPlan([input])
    .troubles.filter(({ weight }) => weight !== 'note')
    .map(({ message }) => message);
const paths = (...inputs: PartInput[]) => packPlan(inputs).entries.map(({ path }) => path);
const gull = partFile(1, 'gull.ogg');

describe('slots', () => {
  const brief = briefWith({ slots });

  test('are filled by one sound each, which may fill several; what has none lies beside', () => {
    const both = partFile(2, 'surf.ogg', { slots: ['places/shore.ogg', 'places/cave.ogg'] });
    expect(told(part(brief, [gull, both]))).toEqual([]);
    expect(paths(part(brief, [gull, both]))).toEqual([
      ...['gull.ogg', 'places/cave.ogg', 'places/shore.ogg'],
    ]);
  });

  test.each<[string, PartInput, RegExp]>([
    ['empty', part(brief, [gull]), /Nothing fills places\/shore.ogg \(the shore\)/],
    [
      'filled twice',
      part(brief, [
        partFile(2, 'a.ogg', { slots: ['places/shore.ogg'] }),
        partFile(3, 'b.ogg', { slots: ['places/shore.ogg'] }),
      ]),
      /2 sounds are meant for/,
    ],
    [
      'that there is not',
      part(brief, [partFile(2, 'a.ogg', { slots: ['places/shore.ogg', 'gone.ogg'] })]),
      /gone.ogg, which is no slot/,
    ],
    [
      'wanted of every sound',
      part(briefWith({ slots, others: 'refuse' }), [
        gull,
        partFile(2, 'a.ogg', { slots: ['places/shore.ogg'] }),
      ]),
      /“gull” fills no slot/,
    ],
  ])('%s: told', (_, input, message) => {
    expect(told(input)[0]).toMatch(message);
  });

  test('are filled by name, with and without folders and words in front; what is not clear is left', () => {
    const named = (soundId: number, name: string, group = '') => ({
      ...{ soundId, name, group, slots: [] as string[] },
    });
    const all = [
      { path: 'places/shore.ogg' },
      { path: 'place_lamp_room.ogg' },
      { path: 'x.ogg', title: 'The Cave' },
      { path: 'twin.ogg' },
    ];
    expect(
      slotsByName(all, [
        named(1, 'Shore'),
        named(2, 'lamp room'),
        named(3, 'the cave'),
        named(4, 'twin', 'a'),
        named(5, 'Twin', 'b'),
      ]),
    ).toEqual([
      { path: 'places/shore.ogg', soundId: 1 },
      { path: 'place_lamp_room.ogg', soundId: 2 },
      { path: 'x.ogg', soundId: 3 },
    ]);
  });
});

describe('names', () => {
  const brief = briefWith({});

  test.each<[string, string[]]>([
    ['case', ['gull.ogg', 'GULL.ogg']],
    ['forms of Unicode', ['m\u00f6we.ogg', 'mo\u0308we.ogg']],
    ['compatible letters', ['ﬁn.ogg', 'fin.ogg']],
    ['folders and files', ['sea', 'sea/gull.ogg']],
  ])('meet whatever disk they come to: %s', (_, both) => {
    const files = both.map((path, i) => partFile(i + 1, path));
    const meeting = /would be one file|Two files|is a file, and a folder/;
    expect(told(part(brief, files)).filter((one) => meeting.test(one))).toHaveLength(1);
  });

  test.each([
    ...['../gull.ogg', '/gull.ogg', 'a\\b.ogg', 'C:/gull.ogg', 'sea//gull.ogg', './gull.ogg'],
    ...['con.ogg', 'gull.ogg.', '.gull.ogg', 'a?b.ogg', 'a\u0000.ogg', `${'a'.repeat(300)}.ogg`],
  ])('%j is refused', (path) => {
    expect(told(part(brief, [partFile(1, path)])).length).toBeGreaterThan(0);
  });

  test('that a destination does not take are refused, folders too', () => {
    const strict = briefWith({}, { names: { case: 'lower', characters: 'a-z0-9_', longest: 12 } });
    const one = (path: string) => told(part(strict, [partFile(1, path)]));
    expect(one('sea/gull_1.ogg')).toEqual([]);
    expect(one('Sea/gull.ogg')[0]).toMatch(/“Sea” is not spelled/);
    expect(one('sea/gu-ll.ogg')[0]).toMatch(/“gu-ll” is not spelled/);
    expect(one('sea/gull_long_1.ogg')[0]).toMatch(/longer than 12/);
  });
});

describe('several destinations', () => {
  const page = briefWith({}, { id: 'page' });
  const master = briefWith({}, { id: 'master' });

  test('lie side by side in their folders; one alone lies at the root', () => {
    expect(paths(part(page, [gull]))).toEqual(['gull.ogg']);
    expect(paths(part(page, [gull]), part(master, [gull]))).toEqual([
      ...['master/gull.ogg', 'page/gull.ogg'],
    ]);
    const own = briefWith({ inFolder: 'for the web' }, { id: 'page' });
    expect(paths(part(own, [gull]))).toEqual(['for the web/gull.ogg']);
  });

  test('that want the same folder meet', () => {
    const [a, b] = ['a', 'b'].map((id) => briefWith({ inFolder: 'x' }, { id }));
    const { troubles } = packPlan([part(a!, [gull]), part(b!, [gull])]);
    expect(troubles.map(({ message }) => message)).toEqual(['Two files would be “x/gull.ogg”.']);
  });
});

describe('what is asked of people', () => {
  const layout: Layout = {
    longestTitle: 12,
    fields: [
      { id: 'edition', title: 'Edition', value: 3, oneOf: [2, 3] },
      { id: 'author', title: 'Author', value: 'unnamed', longest: 8 },
    ],
    texts: [
      {
        path: 'isle.json',
        is: 'json',
        template: '{ "title": "{{title}}", "edition": {{edition}}, "by": "{{author}}" }\n',
      },
    ],
  };
  const brief = briefWith(layout);
  const input = (settings: PartInput['settings']) => part(brief, [gull], { settings });
  const isle = (settings: PartInput['settings']) => {
    const entry = packPlan([input(settings)]).entries.find(({ kind }) => kind === 'text')!;
    return JSON.parse(new TextDecoder().decode(entry.content!)) as object;
  };

  test('goes into the descriptor, and no title breaks that', () => {
    const title = '"Fog", \\ {{x}}';
    expect(isle({ title: 'Storm' })).toEqual({ title: 'Storm', edition: 3, by: 'unnamed' });
    const long = briefWith({ ...layout, longestTitle: 100 });
    const { entries, troubles } = packPlan([part(long, [gull], { settings: { title } })]);
    expect(troubles).toEqual([]);
    const text = entries.find(({ kind }) => kind === 'text')!.content!;
    expect(JSON.parse(new TextDecoder().decode(text))).toMatchObject({ title });
  });

  test.each<[PartInput['settings'], RegExp]>([
    [{ title: 'much too long a title' }, /longer than 12/],
    [{ title: '  ' }, /no title/],
    [{ title: 'a\u0007b' }, /cannot be seen/],
    [{ title: 'A', fields: { edition: 4 } }, /cannot be 4/],
    [{ title: 'A', fields: { edition: '3' } }, /not a number/],
    [{ title: 'A', fields: { author: 'somebody else' } }, /longer than 8/],
    [{ title: 'A', fields: { author: 5 } }, /not a text/],
  ])('%j is refused', (settings, message) => {
    expect(told(input(settings))[0]).toMatch(message);
  });

  test('templates that go wrong say where; ASCII alone is ASCII alone', () => {
    const text = (template: string, more: object = {}) =>
      told(
        part(briefWith({ texts: [{ path: 'a.json', is: 'json', template, ...more }] }), [gull], {
          settings: { title: 'Möwe' },
        }),
      );
    expect(text('{\n "a": 1\n "b": 2\n}')).toEqual([
      'a.json would be no JSON: line 2, column 8: a comma is missing behind line 2.',
    ]);
    expect(text('{"a": "{{nothing}}"}')[0]).toMatch(/line 1, column 10: \{\{nothing\}\} stands/);
    expect(text('{"a": "{{title}}"}', { encoding: 'ascii' })).toEqual([]);
    expect(text('{"a": "ö"}', { encoding: 'ascii' })[0]).toMatch(/column 8: “ö” is no letter of/);
    expect(text('{{^title}}x{{/title}}')[0]).toMatch(/would be empty/);
    const plain = briefWith({
      texts: [{ path: 'a.txt', is: 'text', template: '{{title}}', encoding: 'ascii' }],
    });
    expect(told(part(plain, [gull], { settings: { title: 'Möwe' } }))[0]).toMatch(/“ö”/);
  });
});

describe('an icon', () => {
  const brief = briefWith({ icon: { path: 'icon.png', sizes: [32, 64] } });

  test('is drawn of the title, or is the one that was given', () => {
    const iconOf = (more: Partial<PartInput>) =>
      packPlan([part(brief, [gull], more)]).entries.find(({ kind }) => kind === 'icon')!.content!;
    expect(PNG.sync.read(Buffer.from(iconOf({}))).width).toBe(32);
    const given = new Uint8Array(PNG.sync.write(new PNG({ width: 64, height: 64 })));
    const settings = { icon: { sha256: 'a', bytes: given.length } };
    expect(iconOf({ icon: given, settings })).toEqual(given);
  });

  test('that does not do, or is gone, is refused', () => {
    const settings = { icon: { sha256: 'a', bytes: 3 } };
    expect(told(part(brief, [gull], { settings, icon: Uint8Array.of(1, 2, 3) }))[0]).toMatch(
      /no PNG/,
    );
    expect(told(part(brief, [gull], { settings }))[0]).toMatch(/not there any more/);
  });
});

describe('calls', () => {
  const brief = briefWith({ texts: [{ path: 'calls.json', manifest: 'calls' }] });
  const call = (id: string, ...sounds: number[]) => ({
    ...{ id, levelDb: 0, pitch: [1, 1] as [number, number], read: 'whole' as const },
    variants: sounds.map((soundId) => ({ soundId, odds: 1 })),
  });
  const files = [gull, partFile(2, 'storm.ogg')];

  test('are made of names until somebody has changed them; sounds that nothing plays are noted', () => {
    expect(packPlan([part(brief, files)]).parts[0]!.calls.map(({ id }) => id)).toEqual([
      ...['gull', 'storm'],
    ]);
    const plan = packPlan([part(brief, files, { settings: { calls: [call('bird', 1)] } })]);
    expect(isRight(plan)).toBe(true);
    expect(plan.troubles.map(({ weight, message }) => [weight, message])).toEqual([
      ['note', 'No call plays “storm”.'],
    ]);
    const { content } = plan.entries.find(({ kind }) => kind === 'text')!;
    expect(JSON.parse(new TextDecoder().decode(content!))).toEqual({
      calls: [
        {
          ...{ id: 'bird', levelDb: 0, pitch: [1, 1], read: 'whole' },
          variants: [{ path: 'gull.ogg', odds: 1 }],
        },
      ],
    });
  });

  test('of a sound that does not go there any more are refused', () => {
    expect(told(part(brief, files, { settings: { calls: [call('bird', 9)] } }))[0]).toMatch(
      /A sound of the call “bird” does not go here/,
    );
  });

  test('ten thousand are laid out', () => {
    const calls = Array.from({ length: 10_000 }, (_, i) => call(`c${i}`, 1, 2));
    expect(told(part(brief, files, { settings: { calls } }))).toEqual([]);
  });
});

test('what is not built is open, what cannot be is wrong, and all sounds have to fit', () => {
  const open = { ...gull, made: { reason: 'It is not built.', isBuildable: true } };
  const stuck = { ...gull, made: { reason: 'It cannot be.', isBuildable: false } };
  const weights = (file: typeof open) =>
    packPlan([part(briefWith({}), [file])]).troubles.map(({ weight }) => weight);
  expect([weights(open), weights(stuck)]).toEqual([['open'], ['wrong']]);
  const small = briefWith({}, { mostTotalBytes: 2_000 });
  expect(told(part(small, [gull, partFile(2, 'b.ogg')]))[0]).toMatch(/2,003 bytes; .* 2,000/);
  expect(told(part(small, []))[0]).toMatch(/No sound goes/);
});

test('names that a disk or a person takes for the same meet, and a file meets a folder', () => {
  const brief = briefWith({});
  const meet = (one: string, other: string) =>
    told(part(brief, [partFile(1, one), partFile(2, other)])).some((message) =>
      /one file on many disks|folder for/.test(message),
    );
  for (const [one, other] of [
    ['gross.ogg', 'groß.ogg'],
    ['tide.ogg', 'ti\u200bde.ogg'],
    ['tide.ogg', 'ti\u00adde.ogg'],
    ['tide.ogg', 'TIDE.ogg'],
    ['caf\u00e9.ogg', 'cafe\u0301.ogg'],
    ['ﬁn.ogg', 'fin.ogg'],
    ['sea.ogg', 'sea.ogg/bell.ogg'],
  ] as const) {
    expect([one, other, meet(one, other)]).toEqual([one, other, true]);
  }
  expect(meet('tide.ogg', 'tides.ogg')).toBe(false);
});
