import fc from 'fast-check';
import { parseBuffer } from 'music-metadata';
import wavefile from 'wavefile';
import { memorySource } from '@/core/bytes/source';
import { writers } from '@/core/formats';
import { ByteWriter } from '@/core/formats/bits';
import { openSound } from '@/core/formats/open';
import { rateFor } from '@/core/formats/rates';
import { tidyTags, type Marks, type Tags } from '@/core/marks';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { written } from './files';
import { sine } from './signals';

/** Fields of any length are written and read again, by us and by packages of others. */

const scripts = [
  'Lamp room, 3rd floor & "stairs"',
  'Brandung am Küstenweg – naïve Ångström',
  'Маяк на скале в бурю',
  '嵐の中の灯台と波の音',
  'منارة في العاصفة',
  'Φάρος στην καταιγίδα',
  'storm 🌊🔦 light',
];

/** A text of exactly so many characters, without space at its ends. */
const text = (most: number) =>
  fc
    .tuple(fc.constantFrom(...scripts), fc.integer({ min: 0, max: most }))
    .map(([script, length]) =>
      [...script.repeat(Math.ceil(length / 10) + 1)].slice(0, length).join('').trim(),
    );

const tagsArbitrary: fc.Arbitrary<Tags> = fc
  .record({
    title: text(2_000),
    artist: text(300),
    album: text(140),
    genre: text(80),
    comment: text(2_000),
    track: fc.integer({ min: 1, max: 999 }).map(String),
    year: fc.integer({ min: 1900, max: 2099 }).map(String),
  })
  .map(tidyTags);

const FRAMES = 500;

async function withMarks(writer: (typeof writers)[number], marks: Partial<Marks>) {
  const rateHz = rateFor(writer.legal.rates, 48_000);
  const pcm = pcmFromChannels([sine(rateHz, 500, FRAMES)], rateHz);
  const settings = writer.id === 'm4a' ? { kbps: 64 } : {};
  const whole = { tags: {}, loop: null, markers: [], ...marks };
  return written(pcm, writer.id, settings, undefined, whole);
}

const tagged = writers.filter(({ carries }) => carries.tags);

/** What `music-metadata` finds, by our names. */
async function foreignTags(bytes: Uint8Array, mimeType: string): Promise<Tags> {
  const { common } = await parseBuffer(bytes, { mimeType });
  return tidyTags({
    title: common.title,
    artist: common.artist,
    album: common.album,
    genre: common.genre?.[0],
    comment: common.comment?.[0]?.text,
  });
}

test.each(tagged.map(({ id }) => id))(
  'tags of any length and script through %s, read by us and by others',
  async (id) => {
    const writer = writers.find((kind) => kind.id === id)!;
    await fc.assert(
      fc.asyncProperty(tagsArbitrary, async (tags) => {
        const bytes = await withMarks(writer, { tags });
        const { header } = await openSound(memorySource(bytes));
        expect(header.tags).toEqual(tags);
        const texts: Tags = { ...tags };
        for (const name of ['year', 'track'] as const) delete texts[name];
        const found = await foreignTags(bytes, writer.mimeType);
        // That package has no place for a comment in WebM.
        if (id === 'webm') delete texts.comment;
        expect(found).toEqual(texts);
      }),
      { numRuns: id === 'm4a' ? 12 : 25 },
    );
  },
);

test.each(['flac', 'ogg', 'ogg-opus', 'mp3', 'aiff'])(
  'a title of every length up to 600 through %s',
  async (id) => {
    const writer = writers.find((kind) => kind.id === id)!;
    // Around every place where a growing buffer of headers could end.
    const near = (length: number) => Array.from({ length: 9 }, (_, i) => length - 4 + i);
    const lengths = [5, 60, 110, 125, 240, 252, 500].flatMap(near);
    for (const length of lengths) {
      const title = 'x'.repeat(length);
      const bytes = await withMarks(writer, { tags: { title } });
      const { header } = await openSound(memorySource(bytes));
      expect(header.tags.title).toBe(title);
    }
  },
);

const marked = writers.filter(({ carries }) => carries.markers);

test.each(marked.map(({ id }) => id))('up to 5,000 markers through %s', async (id) => {
  const writer = writers.find((kind) => kind.id === id)!;
  const name = text(300).map((x) => x || 'mark');
  await fc.assert(
    fc.asyncProperty(
      fc.oneof(
        fc.array(fc.tuple(fc.nat(FRAMES), name), { maxLength: 40 }),
        fc
          .integer({ min: 0, max: 5_000 })
          .map((count) =>
            Array.from({ length: count }, (_, i) => [i % FRAMES, `mark ${i}`] as const),
          ),
      ),
      async (list) => {
        const markers = list
          .map(([frame, label]) => ({ frame, name: label }))
          .sort((a, b) => a.frame - b.frame);
        const loop = { startFrame: 3, endFrame: 400 };
        const bytes = await withMarks(writer, { markers, loop });
        const { header } = await openSound(memorySource(bytes));
        expect(header.loop).toEqual(loop);
        expect(header.markers.map(({ frame }) => frame)).toEqual(markers.map(({ frame }) => frame));
        const short = (label: string) => Buffer.from(label).subarray(0, 240).toString();
        const others = header.markers.filter(
          ({ name: found }, i) => !short(found).startsWith(short(markers[i]!.name).slice(0, 40)),
        );
        expect(others).toEqual([]);
        if (writer.container !== 'wav' || markers.length === 0) return;
        const cues = new wavefile.WaveFile(bytes).listCuePoints() as { position: number }[];
        expect(cues).toHaveLength(markers.length);
      },
    ),
    { numRuns: 20 },
  );
});

test('the builder of headers grows wherever a field crosses its end', () => {
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom('u8', 'u16le', 'u32le', 'u16be', 'u24be', 'u32be', 'f64be'), {
        maxLength: 600,
      }),
      (fields) => {
        const out = new ByteWriter();
        const sizes = { u8: 1, u16le: 2, u32le: 4, u16be: 2, u24be: 3, u32be: 4, f64be: 8 };
        let length = 0;
        for (const field of fields) {
          out[field](1);
          length += sizes[field];
        }
        expect(out.bytes()).toHaveLength(length);
      },
    ),
  );
});
