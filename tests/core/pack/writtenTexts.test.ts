import type { LayoutText } from '@/core/brief/layout';
import type { ManifestData, PackedSound } from '@/core/pack/data';
import { kindOf, writtenText } from '@/core/pack/texts/layoutTexts';
import { partFile } from './making';

const sound = (id: number, path: string, more: Partial<PackedSound> = {}): PackedSound => ({
  ...(partFile(id, path, more).made as Omit<PackedSound, 'path'>),
  path,
});
const data: ManifestData = {
  title: 'Möwe',
  project: 'Marrow Skerry',
  brief: { id: 'isle', version: 2, title: 'Isle' },
  fields: { edition: 3 },
  sounds: [
    sound(1, 'a.ogg', { bytes: 100, loop: { startFrame: 40, endFrame: 100 } }),
    sound(2, 'b.ogg', { bytes: 23, channels: 2 }),
  ],
  calls: [
    {
      ...{ id: 'gull', levelDb: -3, pitch: [0.5, 2], read: 'whole' },
      variants: [
        { path: 'a.ogg', odds: 1 },
        { path: 'b.ogg', odds: 4 },
      ],
    },
  ],
  icon: 'icon.png',
  notes: ['First.', 'Second.'],
  stage: null,
};
const written = (text: LayoutText, more: Partial<ManifestData> = {}) =>
  writtenText(text, { ...data, ...more }, () => Uint8Array.of(1, 2));
const filled = (template: string, more: Partial<LayoutText> = {}) =>
  written({ path: 't.txt', is: 'text', template, ...more });

test.each([
  [
    '{{title}} {{project}} {{brief.id}} {{brief.version}} {{edition}}',
    'Möwe Marrow Skerry isle 2 3',
  ],
  ['{{icon}} {{bytes}} {{count}}', 'icon.png 123 2'],
  [
    '{{#notes}}{{number}} {{text}} {{first}} {{last}};{{/notes}}',
    '1 First. true false;2 Second. false true;',
  ],
  [
    '{{#sounds}}{{path}} {{name}} {{bytes}} {{frames}} {{seconds}} {{rate}} {{channels}} {{type}};{{/sounds}}',
    'a.ogg a 100 88200 2 44100 1 audio/ogg; codecs=vorbis;b.ogg b 23 88200 2 44100 2 audio/ogg; codecs=vorbis;',
  ],
  ['{{#sounds}}{{sha256}}{{/sounds}}', `${'1'.repeat(64)}${'2'.repeat(64)}`],
  ['{{#sounds}}{{#loop}}{{start}}+{{length}}{{/loop}}{{^loop}}-{{/loop}}{{/sounds}}', '40+60-'],
  [
    '{{#calls}}{{id}} {{level}} {{low}} {{high}} {{read}}{{#variants}} {{path}} {{odds}}{{/variants}}{{/calls}}',
    'gull -3 0.5 2 whole a.ogg 1 b.ogg 4',
  ],
])('%s says %s', (template, text) => {
  expect(filled(template)).toMatchObject({ text, troubles: [] });
});

test('is in UTF-8, and what is wrong with it stands at its place', () => {
  const { bytes, path } = filled('{{title}}');
  expect([...bytes]).toEqual([...new TextEncoder().encode('Möwe')]);
  expect(path).toBe('t.txt');
  expect(filled('a\nö', { encoding: 'ascii' }).troubles).toEqual([
    {
      ...{ weight: 'wrong', about: 'text', path: 't.txt', line: 2, column: 1 },
      message: 't.txt would be no plain text: line 2, column 1: “ö” is no letter of ASCII.',
      hint: 'Correct its template.',
    },
  ]);
  // At its very beginning as well.
  expect(filled('ö', { encoding: 'ascii' }).troubles).toMatchObject([{ line: 1, column: 1 }]);
  expect(filled('ö').troubles).toEqual([]);
  expect(filled('{{^title}}x{{/title}}').troubles).toMatchObject([
    { message: 't.txt would be empty.', path: 't.txt' },
  ]);
  expect(filled('{{nothing}}').troubles).toHaveLength(1);
  const many = filled('{{#sounds}}{{x}}{{/sounds}}'.repeat(80));
  expect(many.troubles.length).toBeLessThanOrEqual(50);
});

test('of no kind that there is cannot be written, and says so', () => {
  const { troubles, text, bytes, path } = written({ path: 'x.json', manifest: 'gone' });
  expect({ text, path, length: bytes.length }).toEqual({ text: '', path: 'x.json', length: 0 });
  expect(troubles).toMatchObject([{ weight: 'wrong', about: 'text', path: 'x.json' }]);
  expect(troubles[0]!.message).toMatch(/^x.json cannot be written: /);
  expect(kindOf({ path: 'a' }).id).toBe('text');
  expect(kindOf({ path: 'a', is: 'json' }).id).toBe('json');
  expect(kindOf({ path: 'a', manifest: 'asset-list' }).id).toBe('json');
});

test('in ASCII, JSON has escapes; it is what it was', () => {
  const list: LayoutText = { path: 'a.json', manifest: 'asset-list' };
  const plain = written(list);
  expect(plain.troubles).toEqual([]);
  expect(plain.text).toContain('Möwe');
  const ascii = written({ ...list, encoding: 'ascii' });
  expect(ascii.troubles).toEqual([]);
  expect(ascii.text).toMatch(/^[\x20-\x7e\n]*$/);
  expect(JSON.parse(ascii.text)).toEqual(JSON.parse(plain.text));
  // Whatever somebody calls a pack.
  const title = '"\\\u2028\ud800</script>';
  expect(JSON.parse(written(list, { title }).text)).toMatchObject({ title });
});

test('holds 4,000,000 bytes of sounds at most', () => {
  const header: LayoutText = { path: 's.h', manifest: 'c-header', options: { withBytes: true } };
  const of = (bytes: number) =>
    written(header, {
      sounds: [sound(1, 'a.raw', { bytes: 1_000_000 }), sound(2, 'b.raw', { bytes })],
    });
  expect(of(3_000_000).troubles).toEqual([]);
  const { troubles } = of(3_000_001);
  expect(troubles).toHaveLength(1);
  expect(troubles[0]!.message).toContain('4,000,001 bytes');
  expect(
    written({ ...header, options: {} }, { sounds: [sound(1, 'a.raw', { bytes: 9e9 })] }).troubles,
  ).toEqual([]);
});
