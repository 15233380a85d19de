import { builtinTexts } from '@/core/brief/builtin';
import { completeBrief } from '@/core/brief/complete';
import { demandsOf } from '@/core/brief/demands';
import { briefFile, readBriefFile } from '@/core/brief/exchange';
import type { BriefText } from '@/core/brief/schema';

const text = (id: string) => builtinTexts.find((one) => one.id === id)!;
type Change = (brief: BriefText & { files: Record<string, unknown>[] }) => unknown;
const changed = (id: string, change: Change) => {
  const copy = structuredClone(text(id)) as Parameters<Change>[0];
  change(copy);
  return copy as BriefText;
};

/** What contradicts itself or its codec, the field that is named, and what would do. */
test.each<[string, string, Change, RegExp]>([
  ['files[0].writer', 'web-single', (b) => (b.loop = { marked: 'file' }), /Take .*FLAC.* Vorbis/],
  ['files[0].settings', 'web-single', (b) => (b.files[0]!.settings = { kbps: 321 }), /320/],
  ['files[0].isConstant', 'web-single', (b) => (b.files[0]!.settings = { quality: 3 }), /kbps/],
  ['files[0].isConstant', 'game-mod', (b) => (b.files[0]!.isConstant = true), /MP3/],
  ['files[0].settings', 'web-single', (b) => (b.files[0]!.bitRatesKbps = [128]), /128 kbit/],
  ['files[0].settings', 'web-single', (b) => (b.files[0]!.sampleRatesHz = [47_000]), /44100/],
  [
    'files[0].settings',
    'web-single',
    (b) => (b.files[0]!.sampleRatesHz = { from: 50_000, to: 60_000 }),
    /48000/,
  ],
  [
    'files[0].sampleRatesHz',
    'web-single',
    (b) => (b.files[0]!.sampleRatesHz = { from: 48_000, to: 44_100 }),
    /./,
  ],
  ['files[0].alsoTakes[0]', 'game-mod', (b) => (b.files[0]!.alsoTakes = ['wax']), /Choose one of/],
  ['files[1].id', 'web-page', (b) => (b.files[1]!.id = 'ogg'), /once/],
  ['names.characters', 'game-mod', (b) => (b.names = { case: 'lower', characters: 'A-Z' }), /a-z/],
  ['names.characters', 'game-mod', (b) => (b.names = { characters: 'z-a' }), /lower end/],
  ['names.joiner', 'game-mod', (b) => (b.names = { characters: 'a-z', joiner: '_' }), /a-z/],
  ['names.pattern', 'game-mod', (b) => (b.names = { pattern: '{nam}' }), /\{name\}/],
  ['names.pattern', 'game-mod', (b) => (b.names = { pattern: '{name:3}' }), /\{number:3\}/],
  ['folder', 'game-mod', (b) => (b.folder = '{'), /\{group\}/],
  ['languages', 'game-mod', (b) => (b.languages = ['en']), /\{language\}/],
  ['leastSeconds', 'pocket-toy', (b) => (b.leastSeconds = 10), /at most 4 s/],
  [
    'mostBytes',
    'pocket-toy',
    (b) => Object.assign(b, { leastSeconds: 3, mostBytes: 9 }),
    /24,000 bytes/,
  ],
  ['mostBytes', 'pocket-toy', (b) => (b.mostTotalBytes = 9), /at most 9/],
  ['level.by', 'archive', (b) => (b.level = { by: 'all' }), /peakDbtp/],
  ['level.peakDbtp', 'archive', (b) => (b.level = { peakDbtp: 3 }), /./],
  ['loop.marked', 'archive', (b) => (b.loop = { marked: 'forbidden', isNeeded: true }), /out/],
  ['tags.set', 'handheld', (b) => (b.tags = { set: { title: '{name' } }), /./],
])('%s of %s is refused: %s', (field, id, change, hint) => {
  const refused = () => completeBrief(changed(id, change));
  const at = field === 'tags.set' ? 'tags.set.title' : field;
  expect(refused).toThrow(expect.objectContaining({ code: 'bad-setting', field: at }));
  expect(refused).toThrow(expect.objectContaining({ hint: expect.stringMatching(hint) }));
  expect(refused).toThrow(`at ${at}:`);
});

describe('the file of a brief', () => {
  test.each(builtinTexts.map((one) => [one.id, one] as const))(
    '%s comes back as it went out, with nothing that is not understood',
    (_, one) => {
      const out = { ...briefFile(one), demands: demandsOf(completeBrief(one)) };
      const read = readBriefFile(JSON.stringify(out));
      expect(read.text).toEqual(briefFile(one));
      expect(read.unknown).toEqual([]);
      // As a list of one, as the command line prints it.
      expect(readBriefFile(JSON.stringify([out])).text).toEqual(read.text);
    },
  );

  test('keeps what a newer version has put into it, and says so', () => {
    const newer = {
      ...text('game-mod'),
      schema: 99,
      glow: { a: 1 },
      files: [{ ...text('game-mod').files[0], shine: 2 }],
    };
    const { text: kept, unknown } = readBriefFile(JSON.stringify(newer));
    expect(unknown.sort()).toEqual(['files[0].shine', 'glow']);
    expect(kept).toEqual(newer);
  });

  test.each([
    ['', /no JSON/],
    ['{"id": "a" "version": 1}', /no JSON/],
    ['[]', /holds no brief/],
    ['7', /holds no brief/],
    ['{}', /required/],
    ['{"__proto__": {"id": "a"}}', /required/],
    [' '.repeat(1_000_001), /too large/],
  ])('%.12j is refused', (content, message) => {
    expect(() => readBriefFile(content)).toThrow(message);
  });
});

test('what is demanded and what is left open is said of every brief', () => {
  const said = (id: string) =>
    Object.fromEntries(
      demandsOf(completeBrief(text(id))).map(({ fileId, demand, freedom, text: words }) => [
        fileId === null ? demand : `${fileId} ${demand}`,
        `${freedom}: ${words}`,
      ]),
    );
  expect(said('pocket-toy')).toMatchObject({
    'wav format': 'fixed: WAV with PCM',
    'wav sample-rate': 'range: 8 to 11.025 kHz',
    'wav channels': 'fixed: mono',
    'wav bit-depth': 'fixed: 8-bit',
    bytes: 'range: at most 44,200 bytes',
    length: 'range: at most 0:04.000',
    tags: 'fixed: none',
    loudness: 'free: as the source',
  });
  expect(said('engine-effects')).toMatchObject({
    'wav format': 'list: WAV with PCM, WAV with IMA ADPCM, Ogg with Vorbis or MP3',
    'wav sample-rate': 'range: 22.05 to 48 kHz',
  });
  expect(said('archive')).toMatchObject({
    'flac sample-rate': 'free: as the source',
    'flac channels': 'free: as the source',
    'flac made-with': 'fixed: 24-bit, level 5',
  });
  expect(said('composer-handover')).toMatchObject({
    'mp3 bit-rate': 'fixed: 320 kbit/s, constant',
    'wav bit-depth': 'list: 24-bit or 16-bit',
    tags: 'fixed: title set to “{name}”',
  });
});
