import { createHash } from 'node:crypto';
import { FrameSplitter, readFrameHeader } from '@/core/formats/mp3/frame';
import { elements, ID, readElement, readInt, readUint } from '@/core/formats/webm/ebml';
import { readPage } from '@/core/formats/ogg/page';
import { decode, encode } from './files';
import { gridNoise, noise, sine } from './signals';

/** What is in the streams of codecs and their containers, read by hand. */

describe('FLAC', () => {
  test.each([
    [16, 44_100, 1],
    [24, 96_000, 3],
    [16, 70_001, 2],
  ])(
    '%i bits at %i Hz, %i channels: its head tells what is behind it',
    async (bits, rateHz, count) => {
      const frames = 10_000;
      const channels = Array.from({ length: count }, (_, c) => gridNoise(frames, bits, c + 1));
      const bytes = Buffer.from(await encode(channels, rateHz, 'flac', { bits, level: 2 }, bits));
      expect(bytes.toString('latin1', 0, 4)).toBe('fLaC');
      const info = bytes.subarray(8, 42);
      expect([info.readUInt16BE(0), info.readUInt16BE(2)]).toEqual([1_152, 1_152]);
      const packed = info.readBigUInt64BE(10);
      expect([
        packed >> 44n,
        (packed >> 41n) & 7n,
        (packed >> 36n) & 31n,
        packed & 0xfffffffffn,
      ]).toEqual([rateHz, count - 1, bits - 1, frames].map(BigInt));
      const integers = Buffer.alloc(frames * count * (bits / 8));
      channels.forEach((channel, c) =>
        channel.forEach((x, i) =>
          integers.writeIntLE(x * 2 ** (bits - 1), (i * count + c) * (bits / 8), bits / 8),
        ),
      );
      expect(info.toString('hex', 18)).toBe(createHash('md5').update(integers).digest('hex'));
      const [least, most] = [info.readUIntBE(4, 3), info.readUIntBE(7, 3)];
      expect(least).toBeGreaterThan(0);
      expect(most).toBeGreaterThan(least);
      // Eight whole frames of about the same size, and a shorter one.
      expect(least + 7 * most).toBeLessThan(bytes.length);
      expect(least + 8 * most).toBeGreaterThan(bytes.length - 200);
      expect((await decode(bytes)).channels).toEqual(channels);
    },
  );

  test('higher levels are smaller, and the sound is the same', async () => {
    const sound = sine(44_100, 300, 30_000).map((x) => (Math.round(x * 32_768) || 0) / 32_768);
    const sizes: number[] = [];
    for (const level of [0, 5, 8]) {
      const bytes = await encode([sound], 44_100, 'flac', { bits: 16, level }, 16);
      sizes.push(bytes.length);
      expect((await decode(bytes)).channels).toEqual([sound]);
    }
    expect(sizes).toEqual([...sizes].sort((a, b) => b - a));
    expect(sizes[0]! / sizes[1]!).toBeGreaterThan(1.1);
  });
});

describe('MP3', () => {
  const levelOf = (signal: Float32Array) => {
    const part = signal.subarray(6_000, 20_000);
    return 10 * Math.log10(part.reduce((sum, x) => sum + x * x, 0) / part.length);
  };
  test.each([
    [48_000, { kbps: 160 }],
    [48_000, { kbps: 192 }],
    [48_000, { kbps: 224 }],
    [48_000, { kbps: 256 }],
    [24_000, { kbps: 64 }],
    [24_000, { kbps: 160 }],
    [8_000, { kbps: 32 }],
    [48_000, { quality: 2 }],
    [24_000, { quality: 6 }],
  ])('at %i Hz with %j levels come out as they went in', async (rateHz, settings) => {
    const tone = sine(rateHz, 440, 26_000, 0.5);
    const { channels } = await decode(await encode([tone], rateHz, 'mp3', settings));
    expect(channels[0]!.length).toBe(tone.length);
    expect(Math.abs(levelOf(channels[0]!) - levelOf(tone))).toBeLessThan(0.05);
  });

  test('every frame of a constant bit rate has it; better quality takes more room', async () => {
    const sound = [noise(40_000, 5), noise(40_000, 6)];
    for (const [rateHz, kbps] of [
      [48_000, 320],
      [44_100, 32],
      [24_000, 160],
      [16_000, 8],
      [8_000, 64],
    ] as const) {
      const bytes = await encode(sound, rateHz, 'mp3', { kbps });
      const [info, ...frames] = new FrameSplitter().push(bytes);
      expect(Buffer.from(info!).includes('Info')).toBe(true);
      const rates = new Set(frames.map((frame) => readFrameHeader(frame)!.kbps));
      expect([rateHz, ...rates]).toEqual([rateHz, kbps]);
    }
    const sizes: number[] = [];
    for (const quality of [0, 2, 4, 6, 9]) {
      const bytes = await encode(sound, 44_100, 'mp3', { quality });
      expect(Buffer.from(bytes).includes('Xing')).toBe(true);
      sizes.push(bytes.length);
    }
    for (const [i, size] of sizes.slice(1).entries()) expect(size / sizes[i]!).toBeLessThan(0.97);
  });

  test('its table of places points at frames, each as far into the file as into the sound', async () => {
    const bytes = Buffer.from(await encode([noise(300_000, 3)], 44_100, 'mp3', { quality: 5 }));
    const at = bytes.indexOf('Xing') + 16;
    const mpegFrames = bytes.readUInt32BE(at - 8);
    expect(mpegFrames).toBe(Math.ceil((300_000 + 576 + 529) / 1_152));
    const starts: number[] = [];
    // Frames begin where their head says the last one ended.
    let place = 0;
    for (const frame of new FrameSplitter().push(bytes)) {
      starts.push(place);
      place += frame.length;
    }
    const wanted = Array.from({ length: 100 }, (_, percent) =>
      Math.floor((256 * starts[1 + Math.floor((percent / 100) * mpegFrames)]!) / bytes.length),
    );
    expect([...bytes.subarray(at, at + 100)]).toEqual(wanted);
  });
});

describe('Opus', () => {
  const sound = () => [sine(48_000, 330, 11 * 48_000 + 100, 0.4)];

  test('a page a second, each saying how far the sound is, the last where it ends', async () => {
    const bytes = await encode(sound(), 48_000, 'ogg-opus', { kbps: 24 });
    const granules: number[] = [];
    let at = 0;
    for (let page = readPage(bytes, 0); page; page = readPage(bytes, at)) {
      granules.push(Number(page.granule));
      at += page.bytes;
      expect(page.isFirst).toBe(granules.length === 1);
      expect(page.isLast).toBe(at === bytes.length);
    }
    const whole = Array.from({ length: 11 }, (_, i) => (i + 1) * 48_000);
    expect(granules).toEqual([0, 0, ...whole, 11 * 48_000 + 100 + 312]);
  });

  test('a cluster every five seconds in WebM, and cues that find each', async () => {
    const bytes = await encode(sound(), 48_000, 'webm', { kbps: 24 });
    const ebml = readElement(bytes, 0)!;
    const segment = [...elements(bytes)].find(({ id }) => id === ID.segment)!.body;
    expect(ebml.id).toBe(ID.ebml);
    const all = [...elements(segment)];
    const of = (body: Uint8Array, id: number) => [...elements(body)].filter((one) => one.id === id);
    const child = (body: Uint8Array, ...path: number[]) =>
      path.reduce((inner, id) => of(inner, id)[0]!.body, body);
    const clusters = all.filter(({ id }) => id === ID.cluster);
    const times = clusters.map(({ body }) => readUint(child(body, ID.timestamp)));
    expect(times).toEqual([0, 5_000, 10_000]);
    expect(clusters.map(({ body }) => of(body, ID.simpleBlock).length)).toEqual([250, 250, 50]);
    const view = (body: Uint8Array) => new DataView(body.buffer, body.byteOffset, body.length);
    const blocks = of(clusters[1]!.body, ID.simpleBlock);
    blocks.forEach(({ body }, i) => {
      expect([view(body).getUint8(0), view(body).getInt16(1), view(body).getUint8(3)]).toEqual([
        0x81,
        20 * i,
        0x80,
      ]);
    });
    const points = of(child(segment, ID.cues), ID.cuePoint);
    points.forEach(({ body }, i) => {
      expect(readUint(child(body, ID.cueTime))).toBe(times[i]);
      const place = readUint(child(body, ID.cueTrackPositions, ID.cueClusterPosition));
      expect(readElement(segment, place)!.id).toBe(ID.cluster);
      expect(segment.byteOffset + place).toBeLessThan(clusters[i]!.body.byteOffset);
      expect(clusters[i]!.body.byteOffset - segment.byteOffset - place).toBeLessThan(13);
    });
    expect(points.length).toBe(3);
    // 336 frames in front that are not played, and what the last packet has too much.
    const packets = 551;
    const last = child(clusters[2]!.body, ID.blockGroup);
    const surplus = packets * 960 - 336 - (11 * 48_000 + 100);
    expect(readInt(child(last, ID.discardPadding))).toBe(Math.round((surplus * 1e9) / 48_000));
    expect(view(child(last, ID.block)).getInt16(1)).toBe(1_000);
    const track = child(segment, ID.tracks, ID.trackEntry);
    expect(readUint(child(track, ID.codecDelay))).toBe(7_000_000);
    expect(readUint(child(track, ID.seekPreRoll))).toBe(80_000_000);
    const duration = view(child(segment, ID.info, ID.duration)).getFloat64(0);
    expect(duration).toBeCloseTo((11 * 48_000 + 100) / 48, 6);
  });
});
