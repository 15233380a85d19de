import { memorySource } from '@/core/bytes/source';
import { openSound } from '@/core/formats/open';
import { writeSound } from '@/core/formats/write';
import { readIndex } from '@/core/formats/mp4/boxes';
import { checkTables } from '@/core/formats/mp4/tables';
import { FrameSplitter, readFrameHeader } from '@/core/formats/mp3/frame';
import { crc16, readInfoFrame } from '@/core/formats/mp3/infoFrame';
import { readEnd, readPage } from '@/core/formats/ogg/page';
import { FrameWindow } from '@/core/formats/window';
import { MemorySink } from '@/core/bytes/source';
import { collectChannels, pcmFromChannels } from '@/core/pcm/pcm';
import { decode, encode, samples } from './files';
import { noise, sine } from './signals';

const ascii = (text: string) => [...text].map((letter) => letter.charCodeAt(0));

describe.each(Object.keys(samples) as (keyof typeof samples)[])('%s', (kind) => {
  test('read from any frame on, it is the rest of the whole, exact to the frame', async () => {
    const bytes = await samples[kind]();
    const { channels: whole } = await decode(bytes);
    for (const start of [1, 575, 1152, 20_000, 44_099]) {
      const { channels: rest } = await decode(bytes, start);
      expect(rest.map((channel) => channel.length)).toEqual([44_100 - start, 44_100 - start]);
      rest.forEach((channel, c) => expect(channel).toEqual(whole[c]!.slice(start)));
    }
  });

  test('how the sound is cut into blocks never changes the bytes', async () => {
    const settings = {
      wav: { bits: 16 },
      mp3: { quality: 4 },
      ogg: { quality: 2 },
      m4a: { kbps: 96 },
      aiff: { bits: 16 },
      flac: { bits: 16 },
    }[kind];
    const sound = [noise(50_000, 1, 0.3), noise(50_000, 2, 0.3)];
    const write = async (blockFrames: number) => {
      const sink = new MemorySink();
      await writeSound(pcmFromChannels(sound, 44_100, { blockFrames }), kind, settings, sink);
      return Buffer.from(sink.bytes());
    };
    const whole = await write(65_536);
    for (const blockFrames of [997, 4_096, 30_000]) {
      expect((await write(blockFrames)).equals(whole)).toBe(true);
    }
  });
});

test.each(['ogg-opus', 'webm', 'wav-ima-adpcm'])(
  '%s from any frame on is the rest of the whole',
  async (writer) => {
    const sound = [sine(48_000, 440, 60_000), sine(48_000, 660, 60_000)];
    const bytes = await encode(sound, 48_000, writer, {});
    const { channels: whole } = await decode(bytes);
    for (const start of [1, 311, 4_089, 30_000, 59_999]) {
      const { channels: rest } = await decode(bytes, start);
      rest.forEach((channel, c) => expect(channel).toEqual(whole[c]!.slice(start)));
    }
  },
);

describe('MP3', () => {
  test('its delay header is true: frames, bytes, delay, padding, seek table, checksums', async () => {
    const frames = 50_000;
    const bytes = await encode([sine(44_100, 300, frames)], 44_100, 'mp3', { quality: 4 });
    const header = readFrameHeader(bytes)!;
    const infoFrame = bytes.subarray(0, header.bytes);
    const info = readInfoFrame(infoFrame, header)!;
    const sound = new FrameSplitter().push(bytes.subarray(header.bytes));
    expect(sound.reduce((sum, frame) => sum + frame.length, 0)).toBe(bytes.length - header.bytes);
    expect(info.mpegFrames).toBe(sound.length);
    expect(sound.length * 1152).toBe(frames + info.delay! + info.padding!);
    const at = 4 + header.sideInfo;
    const view = new DataView(bytes.buffer, bytes.byteOffset);
    expect(Buffer.from(bytes.subarray(at, at + 4)).toString()).toBe('Xing');
    expect(view.getUint32(at + 12)).toBe(bytes.length);
    const table = [...bytes.subarray(at + 16, at + 116)];
    expect(table).toEqual([...table].sort((a, b) => a - b));
    const extension = at + 120;
    expect(view.getUint32(extension + 28)).toBe(bytes.length);
    expect(view.getUint16(extension + 32)).toBe(crc16(bytes.subarray(header.bytes)));
    expect(view.getUint16(extension + 34)).toBe(crc16(bytes.subarray(0, extension + 34)));
  });

  test('CRC-16/ARC has its standard check value', () => {
    expect(crc16(Uint8Array.from(ascii('123456789')))).toBe(0xbb3d);
  });

  test('constant bit rates keep the level that they were given', async () => {
    for (const kbps of [64, 128, 192, 224, 320]) {
      const tone = sine(44_100, 997, 44_100, 0.5);
      const { channels } = await decode(await encode([tone], 44_100, 'mp3', { kbps }));
      const power = (signal: Float32Array) =>
        signal.subarray(4_000, 40_000).reduce((sum, x) => sum + x * x, 0);
      expect(10 * Math.log10(power(channels[0]!) / power(tone))).toBeCloseTo(0, 1);
    }
  });

  test('frames are found again behind rubbish', async () => {
    const bytes = await samples.mp3();
    const splitter = new FrameSplitter();
    const frames = splitter.push(Buffer.concat([Uint8Array.from([1, 2, 0xff, 3]), bytes]));
    expect(splitter.skippedBytes).toBe(4);
    expect(frames.length).toBe(new FrameSplitter().push(bytes).length);
  });
});

describe('M4A', () => {
  test('states its priming in an edit list, has its index in front, and no date', async () => {
    const bytes = await encode([sine(48_000, 300, 30_000)], 48_000, 'm4a', { kbps: 96 });
    const { window } = await readIndex(memorySource(bytes));
    expect(window!.start * 48_000).toBeCloseTo(2_048, 6);
    expect(window!.length! * 48_000).toBeCloseTo(30_000, 6);
    const buffer = Buffer.from(bytes);
    expect(buffer.indexOf('moov')).toBeLessThan(buffer.indexOf('mdat'));
    for (const box of ['mvhd', 'tkhd', 'mdhd']) {
      expect(buffer.readBigUInt64BE(buffer.indexOf(box) + 8)).toBe(0n);
    }
  });

  const u32 = (...values: number[]) =>
    Uint8Array.from(values.flatMap((v) => [v >>> 24, v >>> 16, v >>> 8, v]));
  const good = () => ({
    stts: u32(0, 1, 10, 1024),
    stsc: u32(0, 1, 1, 5, 1),
    stsz: u32(0, 0, 10, ...new Array<number>(10).fill(100)),
    stco: u32(0, 2, 500, 1_000),
  });

  test.each([
    ['more sizes than are there', { stsz: u32(0, 0, 11, ...new Array<number>(10).fill(100)) }],
    ['four thousand million packets', { stsz: u32(0, 9, 0xffffffff) }],
    ['a first chunk that is not the first', { stsc: u32(0, 1, 320, 5, 1) }],
    ['a thousand million packets a chunk', { stsc: u32(0, 1, 1, 0x40000016, 1) }],
    ['no packets a chunk', { stsc: u32(0, 1, 1, 0, 1) }],
    ['fewer places than packets', { stco: u32(0, 1, 500) }],
    ['more chunks than are there', { stco: u32(0, 9, 500, 1_000) }],
    ['fewer times than packets', { stts: u32(0, 1, 3, 1024) }],
    ['no chunks at all', { stco: undefined }],
  ])('an index with %s is refused', (_, lie) => {
    expect(() => checkTables(good(), 100_000)).not.toThrow();
    expect(() => checkTables({ ...good(), ...lie } as ReturnType<typeof good>, 100_000)).toThrow(
      /contradicts itself/,
    );
  });

  test('tables of a fragmented file are empty, which is no fault', () => {
    expect(() =>
      checkTables({ stts: u32(0, 0), stsc: u32(0, 0), stsz: u32(0, 0, 0), stco: u32(0, 0) }, 9),
    ).not.toThrow();
  });
});

describe('Ogg', () => {
  test('pages follow each other to the end, and the last says how long the sound is', async () => {
    const bytes = await samples.ogg();
    let at = 0;
    let pages = 0;
    let last = readPage(bytes, 0);
    expect(last?.isFirst).toBe(true);
    const serial = last!.serial;
    for (let page = last; page; page = readPage(bytes, at)) {
      last = page;
      at += page.bytes;
      pages++;
    }
    expect(at).toBe(bytes.length);
    expect(pages).toBeGreaterThan(2);
    expect(last).toMatchObject({ isLast: true, granule: 44_100n });
    expect(await readEnd(memorySource(bytes), serial)).toEqual({
      granule: 44_100n,
      complete: true,
    });
    expect(await readEnd(memorySource(bytes.subarray(0, -5)), serial)).toMatchObject({
      complete: false,
    });
    expect(await readEnd(memorySource(bytes), serial + 1)).toEqual({
      granule: null,
      complete: false,
    });
  });
});

test('a window cuts what codecs add, across blocks', () => {
  const window = new FrameWindow(3, 4);
  const block = (...values: number[]) => [Float32Array.from(values)];
  expect(window.cut(block(0, 1))).toBeNull();
  expect(window.cut(block(2, 3, 4))).toEqual(block(3, 4));
  expect(window.missing).toBe(2);
  expect(window.cut(block(5, 6, 7))).toEqual(block(5, 6));
  expect(window.cut(block(8))).toBeNull();
  expect(window).toMatchObject({ missing: 0, decoded: 9 });
});

test('every writer refuses a sound without frames', async () => {
  for (const [writer, settings] of [
    ['mp3', { kbps: 128 }],
    ['ogg', { quality: 3 }],
    ['m4a', { kbps: 96 }],
  ] as const) {
    await expect(encode([new Float32Array(0)], 44_100, writer, settings)).rejects.toMatchObject({
      code: 'no-sound',
    });
  }
});

test('six channels pass through WAV as they are', async () => {
  const sound = Array.from({ length: 6 }, (_, c) => noise(500, c + 1));
  const reader = await openSound(memorySource(await encode(sound, 48_000, 'wav', { bits: 32 })));
  expect(reader.header.channels).toBe(6);
  expect(await collectChannels(reader.pcm())).toEqual(sound);
});
