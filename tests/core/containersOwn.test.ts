import fc from 'fast-check';
import { memorySource } from '@/core/bytes/source';
import { ByteWriter, decodeText, joinBytes } from '@/core/formats/bits';
import { readOpusHead, writeOpusHead } from '@/core/formats/opus/head';
import { packetFrames } from '@/core/formats/opus/packet';
import { oggPackets } from '@/core/formats/ogg/packets';
import { OggPager, readPage } from '@/core/formats/ogg/page';
import { encodings, sampleKinds } from '@/core/formats/pcm/samples';
import { webmPackets } from '@/core/formats/webm/blocks';
import {
  element,
  elements,
  ID,
  readElement,
  readInt,
  readUint,
  readVint,
  uint,
} from '@/core/formats/webm/ebml';

const packet = fc.uint8Array({ maxLength: 3_000 });

test('packets that go into Ogg pages come out again, whatever their sizes and wherever pages end', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.array(packet, { minLength: 1, maxLength: 30 }), { minLength: 1, maxLength: 6 }),
      async (groups) => {
        const pager = new OggPager(77);
        const pages = groups.flatMap((group, i) =>
          pager.pages(group, BigInt(i + 1), i === groups.length - 1),
        );
        const bytes = joinBytes(...pages);
        const found: Uint8Array[] = [];
        for await (const { data } of oggPackets(memorySource(bytes), 77)) found.push(data.slice());
        expect(found).toEqual(groups.flat());
        pages.forEach((page, n) => {
          const head = readPage(page, 0)!;
          expect(head.bytes).toBe(page.length);
          expect([head.isFirst, head.isLast]).toEqual([n === 0, n === pages.length - 1]);
          expect(new DataView(page.buffer, page.byteOffset).getUint32(18, true)).toBe(n);
        });
      },
    ),
    { numRuns: 40 },
  );
});

test('a damaged page costs its packets, not those behind', async () => {
  const pager = new OggPager(5);
  const pages = [1, 2, 3].flatMap((n) => pager.pages([new Uint8Array(500).fill(n)], BigInt(n)));
  pages[1]!.fill(0, 0, 4);
  const found: number[] = [];
  for await (const { data } of oggPackets(memorySource(joinBytes(...pages)), 5))
    found.push(data[0]!);
  expect(found).toEqual([1, 3]);
});

describe('Opus packets (RFC 6716, 3)', () => {
  test.each([
    ['20 ms of one frame', [0xf8, 1, 2], 960],
    ['2.5 ms', [0xe0, 1], 120],
    ['10 ms of speech', [0x00, 1], 480],
    ['60 ms of speech', [0x18, 1], 2_880],
    ['two frames of one size', [0xf9, 1, 2, 3, 4], 1_920],
    ['two frames of two sizes', [0xfa, 1, 9, 8], 1_920],
    ['three frames, constant', [0xfb, 3, 1, 2, 3], 2_880],
    ['three frames, each with its size', [0xfb, 0x83, 1, 1, 7, 7, 7], 2_880],
    ['with padding', [0xfb, 0x41, 2, 7, 0, 0], 960],
  ])('%s', (_, bytes, frames) => {
    expect(packetFrames(Uint8Array.from(bytes), 1)).toBe(frames);
  });

  test.each([
    ['nothing at all', []],
    ['two frames of one size in three bytes', [0xf9, 1, 2, 3]],
    ['a size beyond the end', [0xfa, 100, 1]],
    ['no frames', [0xfb, 0]],
    ['more than 120 ms', [0xfb, 7, 1, 1, 1, 1, 1, 1, 1]],
    ['sizes that do not divide', [0xfb, 3, 1, 2]],
    ['padding without end', [0xfb, 0x41, 255, 255]],
    ['a frame of more than 1,275 bytes', [0xf8, ...new Array<number>(1_276).fill(1)]],
  ])('%s is no packet', (_, bytes) => {
    expect(packetFrames(Uint8Array.from(bytes), 1)).toBeNull();
  });

  test('headers come back as they were written; surround has its streams', () => {
    expect(readOpusHead(writeOpusHead(2, 312, 44_100), 'Ogg', 0)).toMatchObject({
      channels: 2,
      preSkip: 312,
      inputRateHz: 44_100,
      gainDb: 0,
      mapping: [0, 1],
    });
    const surround = new ByteWriter().text('OpusHead').u8(1).u8(6).u16le(312).u32le(48_000);
    surround
      .u16le(0xff00)
      .u8(1)
      .u8(4)
      .u8(2)
      .raw(Uint8Array.of(0, 4, 1, 2, 3, 5));
    expect(readOpusHead(surround.bytes(), 'Ogg', 0)).toMatchObject({
      channels: 6,
      gainDb: -1,
      streamCount: 4,
      coupledCount: 2,
      mapping: [0, 4, 1, 2, 3, 5],
    });
    const wrong = surround.bytes();
    wrong[21] = 9;
    expect(() => readOpusHead(wrong, 'Ogg', 0)).toThrow(/contradicts itself/);
  });
});

describe('EBML (RFC 8794)', () => {
  test('elements and numbers come back as they were written', () => {
    fc.assert(
      fc.property(fc.nat(), fc.uint8Array({ maxLength: 400 }), (value, body) => {
        const bytes = joinBytes(uint(ID.timestamp, value), element(ID.simpleBlock, body));
        const found = [...elements(bytes)];
        expect(found.map(({ id }) => id)).toEqual([ID.timestamp, ID.simpleBlock]);
        expect(readUint(found[0]!.body)).toBe(value);
        expect(found[1]!.body).toEqual(body);
      }),
    );
  });

  test.each([
    [[0x81], 1, 1],
    [[0xff], null, 1],
    [[0x40, 0x7f], 127, 2],
    [[0x7f, 0xff], null, 2],
    [[0x01, 0, 0, 0, 0, 0, 1, 0], 256, 8],
    [[0x01, 255, 255, 255, 255, 255, 255, 255], null, 8],
  ])('the number %j', (bytes, value, length) => {
    expect(readVint(Uint8Array.from(bytes), 0)).toEqual({ value, bytes: length });
  });

  test('what is no element is none', () => {
    for (const bytes of [[], [0], [0, 0x81], [0x1a, 0x45], [0x40, 0x00]]) {
      expect(readElement(Uint8Array.from(bytes), 0)).toBeNull();
    }
    expect(readInt(Uint8Array.of(0xff, 0xfe))).toBe(-2);
  });

  test.each([
    ['none', [0x81, 0, 0, 0x00, 1, 2, 3], [[1, 2, 3]]],
    [
      "Xiph's",
      [0x81, 0, 0, 0x02, 1, 2, 1, 1, 9, 9],
      [
        [1, 1],
        [9, 9],
      ],
    ],
    [
      'equal sizes',
      [0x81, 0, 0, 0x04, 1, 5, 5, 6, 6],
      [
        [5, 5],
        [6, 6],
      ],
    ],
    ["EBML's", [0x81, 0, 0, 0x06, 2, 0x81, 0xc0, 7, 8, 8, 9], [[7], [8, 8], [9]]],
    ['sizes beyond the end', [0x81, 0, 0, 0x02, 1, 99, 1], []],
    ['another track', [0x82, 0, 0, 0x00, 1], []],
  ])('lacing: %s', async (_, block, packets) => {
    const bytes = joinBytes(
      element(ID.segment, element(ID.cluster, element(ID.simpleBlock, Uint8Array.from(block)))),
    );
    const found: number[][] = [];
    for await (const some of webmPackets(memorySource(bytes), 1, () => undefined))
      for (const { data } of some) found.push([...data]);
    expect(found).toEqual(packets);
  });
});

describe('samples', () => {
  const write: Partial<Record<string, (view: DataView, x: number) => void>> = {
    u8: (view, x) => view.setUint8(0, x * 128 + 128),
    s8: (view, x) => view.setInt8(0, x * 128),
    s16le: (view, x) => view.setInt16(0, x * 32_768, true),
    s16be: (view, x) => view.setInt16(0, x * 32_768),
    s32le: (view, x) => view.setInt32(0, x * 2 ** 31, true),
    s32be: (view, x) => view.setInt32(0, x * 2 ** 31),
    f32le: (view, x) => view.setFloat32(0, x, true),
    f32be: (view, x) => view.setFloat32(0, x),
    f64le: (view, x) => view.setFloat64(0, x, true),
    f64be: (view, x) => view.setFloat64(0, x),
  };
  test.each(Object.keys(write))('%s', (encoding) => {
    for (const x of [-1, -0.5, 0, 0.25, 0.5]) {
      const bytes = new Uint8Array(8);
      write[encoding]!(new DataView(bytes.buffer), x);
      expect(sampleKinds[encoding as 'u8'].read(bytes, 1, 1)[0]![0]).toBe(x);
    }
  });

  test('no encoding gives a number that is none', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...encodings),
        fc.uint8Array({ minLength: 16, maxLength: 16 }),
        (encoding, bytes) => {
          const kind = sampleKinds[encoding];
          const [samples] = kind.read(bytes, Math.floor(16 / kind.bytes), 1);
          expect(samples!.every(Number.isFinite)).toBe(true);
        },
      ),
    );
  });

  test('A-law and µ-law are those of ITU-T G.711', () => {
    const value = (encoding: 'alaw' | 'ulaw', byte: number) =>
      sampleKinds[encoding].read(Uint8Array.of(byte), 1, 1)[0]![0]! * 32_768;
    // Quietest and loudest codes of either sign.
    expect([0xd5, 0x55, 0xaa, 0x2a].map((byte) => value('alaw', byte))).toEqual([
      8, -8, 32_256, -32_256,
    ]);
    expect([0xff, 0x7f, 0x80, 0x00].map((byte) => value('ulaw', byte))).toEqual([
      0, -0, 32_124, -32_124,
    ]);
  });
});

test('text is UTF-8 where it can be, else Latin-1, and ends at its first zero', () => {
  expect(decodeText(Uint8Array.of(0xc3, 0xa9, 0, 0x41))).toBe('é');
  expect(decodeText(Uint8Array.of(0xe9, 0x41))).toBe('éA');
});
