import fc from 'fast-check';
import { parseBuffer } from 'music-metadata';
import { MemorySink, memorySource } from '@/core/bytes/source';
import { convert } from '@/core/convert';
import { writers } from '@/core/formats';
import { ByteWriter, encodeText, joinBytes } from '@/core/formats/bits';
import { openSound } from '@/core/formats/open';
import { writeSound, writerById } from '@/core/formats/write';
import { noMarks, type Marks, type Tags } from '@/core/marks';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { marksAfter } from '@/core/recipe/recipe';
import { encode, samples } from './files';
import { sine } from './signals';

const tags: Tags = {
  title: 'Buoy bell, heavy swell',
  artist: 'Mairi Ó Súilleabháin',
  album: 'Marrow Skerry — Leuchtturm 灯台',
  genre: 'Ambience',
  year: '2026',
  comment: 'Second strike, far side; "wet"',
  track: '7',
};
const marks: Marks = {
  tags,
  loop: { startFrame: 4_800, endFrame: 28_801 },
  markers: [
    { frame: 100, name: 'strike' },
    { frame: 20_000, name: 'Wende 灯' },
  ],
};

async function write(writer: string, wanted: Marks, rateHz = 48_000, frames = 48_000) {
  const sink = new MemorySink();
  const settings = writer === 'm4a' ? { kbps: 64 } : {};
  await writeSound(
    pcmFromChannels([sine(rateHz, 440, frames)], rateHz),
    writer,
    settings,
    sink,
    wanted,
  );
  return sink.bytes();
}

const carrying = writers.filter(({ carries }) => carries.tags).map(({ id }) => id);

describe.each(carrying)('%s', (writer) => {
  const { carries } = writerById(writer);

  test('gives back the tags, loop and markers that it carries, and the sound is what it was', async () => {
    const { header, ...reader } = await openSound(memorySource(await write(writer, marks)));
    expect(header.tags).toEqual(tags);
    expect(header.loop).toEqual(carries.loop ? marks.loop : null);
    expect(header.markers).toEqual(carries.markers ? marks.markers : []);
    expect(header.frames).toBe(48_000);
    let frames = 0;
    for await (const block of reader.pcm().blocks) frames += block[0]!.length;
    expect(frames).toBe(48_000);
    expect(reader.warnings).toEqual([]);
  });

  test('has none where none were given', async () => {
    const { header } = await openSound(memorySource(await write(writer, noMarks)));
    expect(header).toMatchObject({ tags: {}, loop: null, markers: [] });
  });

  test('another program finds title, artist and length', async () => {
    const { common, format } = await parseBuffer(await write(writer, marks));
    expect(common.title).toBe(tags.title);
    expect(common.artist).toBe(tags.artist);
    expect(format.sampleRate).toBe(48_000);
    // Of MP3 that program counts frames, what stands in front of the sound included.
    expect(format.duration!).toBeGreaterThan(0.99);
    expect(format.duration!).toBeLessThan(writer === 'mp3' ? 1.08 : 1.05);
  });
});

test('tags of any text come back as they went in', async () => {
  const text = fc
    .string({ unit: 'grapheme', minLength: 1, maxLength: 60 })
    .map((value) => value.replace(/[\p{Cc}\p{Cs}]/gu, '').trim())
    .filter((value) => value !== '');
  await fc.assert(
    fc.asyncProperty(text, fc.constantFrom(...carrying), async (value, writer) => {
      const wanted = { ...noMarks, tags: { title: value, comment: value } };
      const { header } = await openSound(memorySource(await write(writer, wanted, 48_000, 100)));
      expect([writer, header.tags]).toEqual([writer, wanted.tags]);
    }),
    { numRuns: 40 },
  );
});

describe('ID3', () => {
  const frame = (id: string, data: Uint8Array) =>
    new ByteWriter().text(id).u32be(data.length).u16be(0).raw(data).bytes();
  const tagOf = (version: number, body: Uint8Array, flags = 0) =>
    joinBytes(
      new ByteWriter()
        .text('ID3')
        .u8(version)
        .u8(0)
        .u8(flags)
        .u8(0)
        .u8(0)
        .u8(body.length >> 7)
        .u8(body.length & 127)
        .bytes(),
      body,
    );
  const tagsOf = async (...parts: Uint8Array[]) =>
    (await openSound(memorySource(joinBytes(...parts)))).header.tags;
  const latin = (text: string) => joinBytes(Uint8Array.of(0), Buffer.from(text, 'latin1'));

  test('2.2, 2.3 and 2.4 in front, in every encoding', async () => {
    const mp3 = await samples.mp3();
    const short = new ByteWriter().text('TT2').u24be(6).raw(latin('Bölen')).bytes();
    expect(await tagsOf(tagOf(2, short), mp3)).toEqual({ title: 'Bölen' });
    const wide = joinBytes(Uint8Array.of(2), Uint8Array.of(0x70, 0x6f, 0x30, 0x71));
    expect(await tagsOf(tagOf(4, frame('TIT2', wide)), mp3)).toEqual({ title: '\u706f\u3071' });
    const utf8 = joinBytes(Uint8Array.of(3), encodeText('灯台'));
    expect(await tagsOf(tagOf(4, frame('TPE1', utf8)), mp3)).toEqual({ artist: '灯台' });
    expect(await tagsOf(tagOf(3, frame('TCON', latin('(17)Rock'))), mp3)).toEqual({
      genre: 'Rock',
    });
  });

  test('1 and APE behind: they are no damage', async () => {
    const mp3 = await samples.mp3();
    const old = new Uint8Array(128);
    old.set(encodeText('TAGStorm'));
    const item = new ByteWriter().u32le(3).u32le(0).text('Title').u8(0).text('xyz').bytes();
    const footer = new ByteWriter()
      .text('APETAGEX')
      .u32le(2_000)
      .u32le(item.length + 32)
      .u32le(1)
      .u32le(0)
      .i64le(0n);
    const bytes = joinBytes(mp3, item, footer.bytes(), old);
    const reader = await openSound(memorySource(bytes));
    for await (const block of reader.pcm().blocks) void block;
    expect(reader.warnings).toEqual([]);
    expect(reader.header).toMatchObject({ frames: 44_100, tags: { title: 'Storm' } });
  });

  test('FLAC and AAC behind a tag are still what they are', async () => {
    const flac = await encode([sine(48_000, 400, 5_000)], 48_000, 'flac', { bits: 16 });
    const tagged = joinBytes(tagOf(3, frame('TIT2', latin('x'))), flac);
    expect((await openSound(memorySource(tagged))).header).toMatchObject({ container: 'flac' });
  });

  test('a tag that lies about its sizes takes nothing with it', async () => {
    const mp3 = await samples.mp3();
    const bytes = joinBytes(tagOf(3, frame('TIT2', latin('x')).fill(0xff, 4, 8)), mp3);
    expect((await openSound(memorySource(bytes))).header).toMatchObject({
      tags: {},
      frames: 44_100,
    });
  });
});

test('a converted sound keeps its tags and its loop, rescaled; what has no place is said', async () => {
  const source = memorySource(await write('wav', marks));
  const steps = [{ kind: 'resample', on: true, params: { rateHz: 44_100 } }];
  const into = async (writer: string, more = {}) => {
    const sink = new MemorySink();
    const conversion = { recipe: { version: 1 as const, steps }, writer, settings: {}, ...more };
    const { warnings } = await convert(source, conversion, sink);
    const { header } = await openSound(memorySource(sink.bytes()));
    return { header, warnings };
  };
  const ogg = await into('ogg');
  expect(ogg.header.tags).toEqual(tags);
  expect(ogg.header.loop).toEqual({ startFrame: 4_410, endFrame: 4_410 + 22_051 });
  expect(ogg.warnings).toMatchObject([
    { code: 'not-kept', message: expect.stringMatching(/2 markers/) },
  ]);
  const mp3 = await into('mp3', { keepTags: false, tags: { title: 'New' } });
  expect(mp3.header.tags).toEqual({ title: 'New' });
  expect(mp3.warnings).toMatchObject([{ message: expect.stringMatching(/loop points/) }]);
});

test('a loop outside the sound is none, and its inclusive end in WAV is counted right', async () => {
  const bytes = await write('wav', { ...noMarks, loop: { startFrame: 0, endFrame: 48_000 } });
  const at = Buffer.from(bytes).indexOf('smpl') + 8;
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  expect(view.getUint32(at + 36 + 12, true)).toBe(47_999);
  expect((await openSound(memorySource(bytes))).header.loop).toEqual({
    startFrame: 0,
    endFrame: 48_000,
  });
  view.setUint32(at + 36 + 12, 48_000, true);
  const { header, warnings } = await openSound(memorySource(bytes));
  expect(header.loop).toBeNull();
  expect(warnings.map(({ message }) => message)).toEqual([
    'It states a loop from frame 0 to 48,001, but ends at 48,000: the loop is not used.',
  ]);
});

describe('a loop that runs back and forth', () => {
  const loop = { startFrame: 100, endFrame: 900, isBackAndForth: true as const };

  test.each(['wav', 'wav-ima-adpcm', 'aiff'])('stays one in %s', async (writer) => {
    const bytes = await write(writer, { ...noMarks, loop });
    expect((await openSound(memorySource(bytes))).header.loop).toEqual(loop);
  });

  test('is not written where it would run forward, which is said, and forward once it is unrolled', async () => {
    const source = memorySource(await write('wav', { ...noMarks, loop }));
    const into = async (...steps: { kind: string; on: boolean; params: object }[]) => {
      const sink = new MemorySink();
      const recipe = { version: 1, steps } as never;
      const { warnings } = await convert(source, { recipe, writer: 'flac', settings: {} }, sink);
      const { header } = await openSound(memorySource(sink.bytes()));
      return { loop: header.loop, said: warnings.map(({ message }) => message) };
    };
    expect(await into()).toEqual({
      loop: null,
      said: ['FLAC has no place for a loop that runs back and forth.'],
    });
    const params = { startFrame: 100, endFrame: 900 };
    expect(await into({ kind: 'unroll', on: true, params })).toEqual({
      loop: { startFrame: 100, endFrame: 900 + 798 },
      said: [],
    });
  });
});

describe('the end of a loop is a boundary', () => {
  const shape = { rateHz: 48_000, channelCount: 1, frames: 10_000 };
  const looped = { ...noMarks, loop: { startFrame: 1_000, endFrame: 3_000 } };
  const behind = (kind: string, params: Record<string, unknown>, marks = looped) => {
    const recipe = { version: 1 as const, steps: [{ kind, on: true, params }] };
    return marksAfter(recipe, shape, marks).loop;
  };

  test.each([
    [
      'silence put in where it ends does not join it',
      'silence',
      { atFrame: 3_000, frames: 500 },
      1_000,
      3_000,
    ],
    ['silence in the middle does', 'silence', { atFrame: 2_000, frames: 500 }, 1_000, 3_500],
    [
      'silence where it begins goes in front',
      'silence',
      { atFrame: 1_000, frames: 500 },
      1_500,
      3_500,
    ],
    [
      'what is cut away behind it is not missed',
      'keep',
      { startFrame: 0, endFrame: 3_000 },
      1_000,
      3_000,
    ],
    ['at another rate it ends where it ended', 'resample', { rateHz: 24_000 }, 500, 1_500],
  ])('%s', (_, kind, params, startFrame, endFrame) => {
    expect(behind(kind, params)).toEqual({ startFrame, endFrame });
  });

  test('a loop of one frame, and one that is turned round', () => {
    const one = { ...noMarks, loop: { startFrame: 1_000, endFrame: 1_001 } };
    expect(behind('silence', { atFrame: 500, frames: 10 }, one)).toEqual({
      startFrame: 1_010,
      endFrame: 1_011,
    });
    expect(behind('reverse', {})).toEqual({ startFrame: 7_000, endFrame: 9_000 });
  });
});
