import imaadpcm from 'imaadpcm';
import { BufferSource, ALL_FORMATS, EncodedPacketSink, Input } from 'mediabunny';
import { OggOpusDecoder } from 'ogg-opus-decoder';
import wavefile from 'wavefile';
import { memorySource } from '@/core/bytes/source';
import { ByteWriter, joinBytes } from '@/core/formats/bits';
import { writeExtended, readExtended } from '@/core/formats/aiff/extended';
import { oggPackets } from '@/core/formats/ogg/packets';
import { OggPager, readPage } from '@/core/formats/ogg/page';
import { openSound } from '@/core/formats/open';
import { parseRaw } from '@/core/formats/raw/reader';
import { collectChannels } from '@/core/pcm/pcm';
import { decode, encode } from './files';
import { aacPackets, adtsFile, heAacFile } from '../../tools/made/aac';
import { alacFile } from '../../tools/made/alac';
import { layerTwo } from '../../tools/made/layerTwo';
import { rf64Of } from '../../tools/made/rf64';
import { webmOf } from '../../tools/made/webmVorbis';
import { errorDb, gridNoise, noise, sine } from './signals';

const FRAMES = 10_000;
const integers = (x: Float32Array) => Int16Array.from(x, (value) => Math.round(value * 32_768));

/** A 16-bit WAV by another package, then changed by it into another encoding. */
function byWavefile(change: (wav: wavefile.WaveFile) => void): {
  bytes: Uint8Array;
  channels: Float32Array[];
} {
  const channels = [gridNoise(FRAMES, 16, 1).map((x) => x * 0.5), gridNoise(FRAMES, 16, 2)];
  const wav = new wavefile.WaveFile();
  wav.fromScratch(2, 44_100, '16', channels.map(integers));
  change(wav);
  return { bytes: wav.toBuffer(), channels };
}

describe('WAV as another package writes it', () => {
  test.each(['8', '24', '32', '32f', '64'])('%s', async (depth) => {
    const { bytes, channels } = byWavefile((wav) => wav.toBitDepth(depth));
    const { channels: back, header, warnings } = await decode(bytes);
    expect(warnings).toEqual([]);
    expect(header).toMatchObject({ frames: FRAMES, bitDepth: Number.parseInt(depth, 10) });
    const limit = depth === '8' ? -30 : -85;
    back.forEach((channel, c) => expect(errorDb(channel, channels[c]!)).toBeLessThan(limit));
  });

  test.each([
    ['A-law', 'alaw', (wav: wavefile.WaveFile) => wav.toALaw()],
    ['µ-law', 'ulaw', (wav: wavefile.WaveFile) => wav.toMuLaw()],
  ] as const)('%s', async (_, codec, change) => {
    const mono = gridNoise(FRAMES, 16, 3);
    const wav = new wavefile.WaveFile();
    wav.fromScratch(1, 8_000, '16', integers(mono));
    change(wav);
    const { channels, header } = await decode(wav.toBuffer());
    expect(header).toMatchObject({ codec, bitDepth: null, frames: FRAMES });
    expect(errorDb(channels[0]!, mono)).toBeLessThan(-30);
  });

  test('IMA ADPCM decodes to the very samples that another decoder gives, block by block', async () => {
    const sound = sine(22_050, 400, 20_000, 0.6);
    const bytes = await encode([sound], 22_050, 'wav-ima-adpcm', {});
    const { channels, header } = await decode(bytes);
    expect(header).toMatchObject({ codec: 'ima-adpcm', bitDepth: 4, frames: 20_000 });
    expect(errorDb(channels[0]!, sound)).toBeLessThan(-30);
    const view = new DataView(bytes.buffer);
    const blockBytes = view.getUint16(32, true);
    const data = Buffer.from(bytes).indexOf('data') + 8;
    const ours = integers(channels[0]!);
    const perBlock = (blockBytes - 4) * 2 + 1;
    for (let block = 0; block < 5; block++) {
      const at = data + block * blockBytes;
      // That package gives a block's first sample twice.
      const theirs = imaadpcm.decodeBlock([...bytes.slice(at, at + blockBytes)]).slice(1);
      const mine = ours.subarray(block * perBlock, block * perBlock + theirs.length);
      expect(
        Buffer.compare(
          Buffer.from(Int16Array.from(theirs).buffer),
          Buffer.from(mine.slice().buffer),
        ),
      ).toBe(0);
    }
  });

  test('our files are read by it: plain, float, and with six channels', async () => {
    const sound = [noise(500, 1), noise(500, 2)];
    for (const bits of [8, 16, 24, 32] as const) {
      const wav = new wavefile.WaveFile(await encode(sound, 44_100, 'wav', { bits }));
      expect(wav.fmt).toMatchObject({ numChannels: 2, sampleRate: 44_100, bitsPerSample: bits });
      expect((wav.getSamples(false) as unknown as Float64Array[])[0]!.length).toBe(500);
    }
    const six = new wavefile.WaveFile(
      await encode(
        Array.from({ length: 6 }, (_, c) => noise(50, c + 1)),
        48_000,
        'wav',
        { bits: 24 },
      ),
    );
    expect(six.fmt).toMatchObject({ audioFormat: 0xfffe, dwChannelMask: 0x3f });
  });
});

test('RF64 states its length where 32 bits are not enough', async () => {
  const plain = await encode([gridNoise(FRAMES, 16)], 48_000, 'wav', { bits: 16 }, 16);
  const rf64 = rf64Of(plain);
  expect(Buffer.from(rf64).indexOf('data')).toBe(36 + 36);
  const { channels, header, warnings } = await decode(rf64);
  expect(warnings).toEqual([]);
  expect(header.frames).toBe(FRAMES);
  expect(channels[0]).toEqual(gridNoise(FRAMES, 16));
});

describe('AIFF-C', () => {
  test('80-bit numbers hold every rate', () => {
    for (const rate of [1_000, 8_000, 11_025, 22_050, 44_100, 48_000, 96_000, 192_000, 768_000]) {
      expect(readExtended(writeExtended(rate), 0)).toBe(rate);
    }
  });

  test.each([
    [
      'NONE',
      16,
      (view: DataView, at: number, x: number) => view.setInt16(at, Math.round(x * 32_768)),
    ],
    [
      'sowt',
      16,
      (view: DataView, at: number, x: number) => view.setInt16(at, Math.round(x * 32_768), true),
    ],
    ['fl32', 32, (view: DataView, at: number, x: number) => view.setFloat32(at, x)],
  ] as const)('%s', async (compression, bits, put) => {
    const sound = gridNoise(1_001, 16, 5);
    const size = bits / 8;
    const data = new Uint8Array(sound.length * size);
    sound.forEach((x, i) => put(new DataView(data.buffer), i * size, x));
    const comm = new ByteWriter().text('COMM').u32be(24).u16be(1).u32be(sound.length).u16be(bits);
    comm.raw(writeExtended(22_050)).text(compression).u16be(0);
    const ssnd = new ByteWriter()
      .text('SSND')
      .u32be(data.length + 8)
      .u32be(0)
      .u32be(0)
      .raw(data);
    const bytes = joinBytes(
      new ByteWriter().text('FORM').u32be(0).text('AIFC').bytes(),
      comm.bytes(),
      ssnd.bytes(),
    );
    const { channels, header, warnings } = await decode(bytes);
    expect(warnings).toEqual([]);
    expect(header).toMatchObject({ container: 'aiff', sampleRateHz: 22_050, frames: 1_001 });
    expect(channels[0]).toEqual(sound);
  });
});

test('MPEG layer II is decoded, and its energy lies where it was put', async () => {
  const { channels, header } = await decode(layerTwo(20, 2));
  expect(header).toMatchObject({
    container: 'mp3',
    codec: 'mp2',
    sampleRateHz: 48_000,
    channels: 1,
  });
  expect(channels[0]!.length).toBe(20 * 1_152);
  const power = (hz: number) => {
    const part = channels[0]!.subarray(4_000, 4_000 + 9_600);
    let [re, im] = [0, 0];
    part.forEach((x, i) => {
      re += x * Math.cos((2 * Math.PI * hz * i) / 48_000);
      im += x * Math.sin((2 * Math.PI * hz * i) / 48_000);
    });
    return Math.hypot(re, im) / part.length;
  };
  // Subband 2 of 32 spans 1,500 to 2,250 Hz.
  const inside = Math.max(...[1_500, 1_875, 2_250].map(power));
  expect(inside).toBeGreaterThan(0.001);
  for (const hz of [400, 5_000, 9_000]) expect(power(hz)).toBeLessThan(inside / 20);
});

describe('MP4 and its kin', () => {
  test.each([1, 2])('ALAC with %i channels is bit-identical', async (count) => {
    const sound = Array.from({ length: count }, (_, c) => gridNoise(9_001, 16, c + 1));
    const { channels, header, warnings } = await decode(alacFile(sound.map(integers), 44_100));
    expect(warnings).toEqual([]);
    expect(header).toMatchObject({ container: 'mp4', codec: 'alac', bitDepth: 16, frames: 9_001 });
    expect(channels).toEqual(sound);
  });

  test('HE-AAC comes out at its whole rate, twice the core', async () => {
    const { packets } = await aacPackets([sine(22_050, 440, 30_000)], 22_050);
    const { channels, header } = await decode(heAacFile(packets, 22_050, 1));
    expect(header).toMatchObject({ codec: 'he-aac', sampleRateHz: 44_100 });
    const part = channels[0]!.subarray(10_000, 10_000 + 44_100 / 2);
    const crossings = part.filter((x, i) => i > 0 && part[i - 1]! < 0 && x >= 0).length;
    expect(Math.abs(crossings - 220)).toBeLessThanOrEqual(1);
  });

  test('a bare AAC stream holds the same sound as the M4A', async () => {
    const sound = [sine(44_100, 440, 30_000), sine(44_100, 660, 30_000)];
    const { packets } = await aacPackets(sound, 44_100);
    const { channels, header, warnings } = await decode(adtsFile(packets, 44_100, 2));
    expect(header).toMatchObject({ container: 'adts', codec: 'aac', channels: 2, frames: null });
    expect(warnings).toMatchObject([{ code: 'no-delay-header' }]);
    // The packet that decoders keep back is cut; that more of it is priming, and the padding, cannot be known.
    const { channels: exact } = await decode(await encode(sound, 44_100, 'm4a', { kbps: 64 }));
    channels.forEach((channel, c) => expect(channel.subarray(1_024, 31_024)).toEqual(exact[c]));
  });
});

describe('Opus', () => {
  test.each(['ogg-opus', 'webm'])('%s: level, sides and place are kept', async (writer) => {
    const sound = [sine(48_000, 523, 60_000, 0.4), sine(48_000, 331, 60_000, 0.2)];
    const { channels } = await decode(await encode(sound, 48_000, writer, { kbps: 160 }));
    channels.forEach((channel, c) =>
      expect(errorDb(channel, sound[c]!, 5_000, 55_000)).toBeLessThan(-25),
    );
  });

  test('another decoder finds the same frames in our Ogg', async () => {
    const decoder = new OggOpusDecoder();
    await decoder.ready;
    // On a stream of one page that decoder forgets the pre-skip.
    for (const frames of [60_000, 100_003]) {
      const bytes = await encode([sine(48_000, 440, frames)], 48_000, 'ogg-opus', { kbps: 48 });
      expect((await decoder.decodeFile(bytes)).channelData[0]!.length).toBe(frames);
      await decoder.reset();
      let granule: bigint | null = null;
      const { serial } = readPage(bytes, 0)!;
      for await (const packet of oggPackets(memorySource(bytes), serial)) granule = packet.granule;
      expect(granule).toBe(BigInt(frames + 312));
    }
    decoder.free();
  });

  test('another demultiplexer reads our WebM', async () => {
    const bytes = await encode([noise(48_000 * 12, 1, 0.2)], 48_000, 'webm', { kbps: 32 });
    const input = new Input({ source: new BufferSource(bytes), formats: ALL_FORMATS });
    expect(await input.getMimeType()).toMatch(/webm/);
    const track = (await input.getPrimaryAudioTrack())!;
    expect(await track.getCodec()).toBe('opus');
    let packets = 0;
    let last = 0;
    for await (const packet of new EncodedPacketSink(track).packets()) {
      packets++;
      last = packet.timestamp;
    }
    expect(packets).toBe(Math.ceil((48_000 * 12 + 312) / 960));
    expect(last).toBeCloseTo((packets - 1) * 0.02, 2);
  });
});

test('WebM with Vorbis holds the same sound as the Ogg', async () => {
  const sound = [sine(44_100, 440, 50_000), sine(44_100, 660, 50_000)];
  const ogg = await encode(sound, 44_100, 'ogg', { quality: 5 });
  const bytes = await webmOf(ogg);
  const { channels, header } = await decode(bytes);
  const { channels: original } = await decode(ogg);
  expect(header).toMatchObject({ container: 'webm', codec: 'vorbis', channels: 2 });
  // Without a stated end the last packet is heard whole.
  expect(channels[0]!.length).toBeGreaterThanOrEqual(50_000);
  channels.forEach((channel, c) => expect(channel.subarray(0, 50_000)).toEqual(original[c]));
});

describe('raw samples', () => {
  test('are read as they are described', async () => {
    const sound = gridNoise(777, 16, 4);
    const bytes = new Uint8Array(integers(sound).buffer);
    const reader = await openSound(memorySource(bytes), parseRaw('s16le, 8000, 1'));
    expect(reader.header).toMatchObject({ container: 'raw', sampleRateHz: 8_000, frames: 777 });
    expect(await collectChannels(reader.pcm())).toEqual([sound]);
    const [late] = await collectChannels(reader.pcm(700));
    expect(late).toEqual(sound.slice(700));
  });

  test.each(['s17le,8000,1', 's16le,80,1', 's16le,8000,9', 's16le,8000,1,1', 's16le', ''])(
    '"%s" describes nothing',
    (text) => expect(() => parseRaw(text)).toThrow(/not described/),
  );

  test('bytes that are no whole frame are said', async () => {
    const reader = await openSound(memorySource(new Uint8Array(9)), parseRaw('s16le,8000,2'));
    expect(reader.warnings).toMatchObject([{ code: 'extra' }]);
  });
});

test('an Ogg page is found wherever its head lies between two reads', async () => {
  const readAtOnce = 261_228;
  const pagesOf = (first: number) => {
    const pager = new OggPager(7);
    return [first, ...Array<number>(6).fill(50_000)].flatMap((size) =>
      pager.pages([new Uint8Array(size)], 0n),
    );
  };
  // The sixth page's head of 224 bytes comes to lie before, across and behind the end of a read.
  const sixthAt = (first: number) => joinBytes(...pagesOf(first).slice(0, 5)).length;
  expect(sixthAt(59_750)).toBeLessThan(readAtOnce - 224);
  expect(sixthAt(60_150)).toBeGreaterThan(readAtOnce);
  for (let first = 59_750; first < 60_150; first += 7) {
    const found: number[] = [];
    for await (const packet of oggPackets(memorySource(joinBytes(...pagesOf(first))), 7)) {
      found.push(packet.data.length);
    }
    expect(found).toEqual([first, ...Array<number>(6).fill(50_000)]);
  }
});
