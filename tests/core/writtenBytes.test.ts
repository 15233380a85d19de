import { MemorySink } from '@/core/bytes/source';
import { writers } from '@/core/formats';
import { writeSound } from '@/core/formats/write';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { encode, written } from './files';

/** What writers write, byte by byte where a format leaves no choice, and number by number where it leaves some. */

const bytesOf = (...parts: (string | number[] | Buffer)[]) =>
  Buffer.concat(
    parts.map((part) =>
      typeof part === 'string' ? Buffer.from(part, 'latin1') : Buffer.from(part),
    ),
  );
const be32 = (value: number) =>
  [value >>> 24, value >>> 16, value >>> 8, value].map((x) => x & 255);
const hex = (bytes: Uint8Array) => Buffer.from(bytes).toString('hex');

/** Six steps of 16 bits, as they are. */
const steps = Float32Array.of(0, 1, -1, 32_767, -32_768, 258).map((x) => x / 32_768);
const low16 = [0, 0, 1, 0, 255, 255, 255, 127, 0, 128, 2, 1];

describe('AIFF', () => {
  const head = (
    channels: number,
    frames: number,
    bits: number,
    dataBytes: number,
    behind: number,
  ) =>
    bytesOf('FORM', be32(46 + dataBytes + behind), 'AIFFCOMM', be32(18)).toString('latin1') +
    bytesOf(
      [0, channels],
      be32(frames),
      [0, bits],
      [0x40, 0x0e, 0xac, 0x44, 0, 0, 0, 0, 0, 0],
    ).toString('latin1') +
    bytesOf('SSND', be32(dataBytes + 8), be32(0), be32(0)).toString('latin1');

  test('16 bits, high byte first', async () => {
    const bytes = await encode([steps], 44_100, 'aiff', { bits: 16 }, 16);
    const high = low16.map((_, i) => low16[i ^ 1]!);
    expect(hex(bytes)).toBe(hex(bytesOf(head(1, 6, 16, 12, 0), high)));
  });

  test('an odd number of bytes is filled up, which its length does not count', async () => {
    const one = [Float32Array.of(2 ** -23)];
    expect(hex(await encode(one, 44_100, 'aiff', {}, 24))).toBe(
      hex(bytesOf(head(1, 1, 24, 3, 1), [0, 0, 1, 0])),
    );
  });

  test('tags, markers with their names, and a loop as an instrument that names two of them', async () => {
    const marks = {
      tags: { title: 'odd', artist: 'ab', comment: 'x' },
      loop: { startFrame: 2, endFrame: 5 },
      markers: [{ frame: 1, name: 'on' }],
    };
    const pcm = () => pcmFromChannels([steps], 44_100, { gridBits: 16 });
    const bytes = await written(pcm(), 'aiff', { bits: 16 }, new MemorySink(), marks);
    const file = Buffer.from(bytes).subarray(54 + 12);
    const texts = bytesOf(
      'NAME',
      be32(3),
      'odd',
      [0],
      'AUTH',
      be32(2),
      'ab',
      'ANNO',
      be32(1),
      'x',
      [0],
    );
    expect(hex(file.subarray(0, texts.length))).toBe(hex(texts));
    expect(file.toString('latin1', texts.length, texts.length + 4)).toBe('ID3 ');
    const list = bytesOf(
      [0, 3],
      [0, 1],
      be32(1),
      // With its length, a name takes an even number of bytes.
      [2],
      'on',
      [0],
      [0, 2],
      be32(2),
      [10],
      'loop start',
      [0],
      [0, 3],
      be32(5),
      [8],
      'loop end',
      [0],
    );
    const instrument = [60, 0, 0, 127, 1, 127, 0, 0, 0, 1, 0, 2, 0, 3, 0, 0, 0, 0, 0, 0];
    const marked = bytesOf('MARK', be32(list.length), list, 'INST', be32(20), instrument);
    expect(hex(file.subarray(-marked.length))).toBe(hex(marked));
    expect(Buffer.from(bytes).readUInt32BE(4)).toBe(bytes.length - 8);
  });

  test('what is too long for its lengths is refused before a byte is written', async () => {
    const sink = new MemorySink();
    const most = Math.floor((0xffffffff - (1 << 20)) / 2);
    const long = (frames: number) => ({ ...pcmFromChannels([steps], 44_100), frames });
    await expect(writeSound(long(most + 1), 'aiff', { bits: 16 }, sink)).rejects.toMatchObject({
      code: 'not-legal',
      message: expect.stringMatching(/4 GiB/),
    });
    expect(sink.bytes().length).toBe(0);
  });
});

describe('raw samples', () => {
  test('signed and unsigned, low byte first, channel by channel', async () => {
    const raw = async (encoding: string, channels: Float32Array[], bits: number) => [
      ...(await encode(channels, 8_000, 'raw', { encoding }, bits)),
    ];
    expect(await raw('s16le', [steps], 16)).toEqual(low16);
    const bytes = Float32Array.of(0, 1, -1, 127, -128).map((x) => x / 128);
    expect(await raw('u8', [bytes], 8)).toEqual([128, 129, 127, 255, 0]);
    expect(await raw('s8', [bytes], 8)).toEqual([0, 1, 255, 127, 128]);
    expect(await raw('s8', [bytes, bytes.map((x) => -x)], 8)).toEqual([
      0, 0, 1, 255, 255, 1, 127, 129, 128, 127,
    ]);
  });

  test.each([
    [15, ['  0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14,']],
    [16, ['  0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15,']],
    [17, ['  0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15,', '  16,']],
  ])('%i of them in C', async (frames, lines) => {
    const ramp = Float32Array.from({ length: frames }, (_, i) => i / 128);
    const text = Buffer.from(
      await encode([ramp], 11_025, 'c', { encoding: 's8', name: 'lamp' }, 8),
    ).toString();
    expect(text.split('\n')).toEqual([
      '#ifndef LAMP_H',
      '#define LAMP_H',
      '',
      '#include <stdint.h>',
      '',
      '#define lamp_rate_hz 11025',
      '#define lamp_channels 1',
      '',
      'static const int8_t lamp[] = {',
      ...lines,
      '};',
      '',
      `#define lamp_frames ${frames}`,
      '',
      '#endif',
      '',
    ]);
  });

  test.each([
    ['u8', 'uint8_t', '  128, 129, 127, 255, 0,', 8, [0, 1, -1, 127, -128]],
    ['s8', 'int8_t', '  0, 1, -1, 127, -128,', 8, [0, 1, -1, 127, -128]],
    ['s16le', 'int16_t', '  0, 1, -1, 32767, -32768,', 16, [0, 1, -1, 32_767, -32_768]],
  ])('%s in C', async (encoding, type, line, bits, values) => {
    const sound = Float32Array.from(values, (x) => x / 2 ** (bits - 1));
    const text = Buffer.from(await encode([sound], 8_000, 'c', { encoding }, bits)).toString();
    expect(text).toContain(`static const ${type} sound[] = {\n${line}\n};`);
  });
});

test('samples of WAV, at every depth', async () => {
  const data = async (bits: number, channels: Float32Array[], grid?: number) => {
    const bytes = Buffer.from(await encode(channels, 48_000, 'wav', { bits }, grid));
    const at = bytes.indexOf('data') + 8;
    return [...bytes.subarray(at, at + bytes.readUInt32LE(at - 4))];
  };
  expect(await data(16, [steps], 16)).toEqual(low16);
  expect(await data(8, [Float32Array.of(0, 0.5, -1)], 8)).toEqual([128, 192, 0]);
  expect(await data(24, [Float32Array.of(2 ** -23, -1)], 24)).toEqual([1, 0, 0, 0, 0, 128]);
  const float = Float32Array.of(0.1, 1.5, -0.2, 1e-20);
  expect(await data(32, [float])).toEqual([...new Uint8Array(float.buffer)]);
  expect(await data(32, [float.subarray(0, 2), float.subarray(2)])).toEqual([
    ...new Uint8Array(Float32Array.of(float[0]!, float[2]!, float[1]!, float[3]!).buffer),
  ]);
});

test('what is louder than full scale is held and counted, where samples are whole numbers', async () => {
  const loud = [Float32Array.of(0, 1.5, -1.5, 0.5), Float32Array.of(2, 0, 0, 0)];
  const clipped = async (id: string, settings: object) => {
    const result = await writeSound(pcmFromChannels(loud, 48_000), id, settings, new MemorySink());
    return [result.framesIn, result.clippedSamples];
  };
  for (const bits of [8, 16, 24]) expect(await clipped('wav', { bits })).toEqual([4, 3]);
  expect(await clipped('wav', { bits: 32 })).toEqual([4, 0]);
  expect(await clipped('wav-ima-adpcm', {})).toEqual([4, 3]);
  expect(await clipped('aiff', { bits: 16 })).toEqual([4, 3]);
  expect(await clipped('flac', { bits: 16 })).toEqual([4, 3]);
  expect(await clipped('raw', { encoding: 'u8' })).toEqual([4, 3]);
  expect(await clipped('c', { encoding: 's8' })).toEqual([4, 3]);
  expect(await clipped('ogg-opus', {})).toEqual([4, 3]);
});

test('nothing is no sound, for every format that cannot hold nothing', async () => {
  for (const { id } of writers) {
    const settings = id === 'm4a' ? { kbps: 64 } : {};
    const nothing = pcmFromChannels([new Float32Array(0)], 48_000);
    const wrote = writeSound(nothing, id, settings, new MemorySink()).then(
      ({ framesIn }) => framesIn,
      (error: { code: string }) => error.code,
    );
    expect([id, await wrote]).toEqual([id, ['wav', 'aiff'].includes(id) ? 0 : 'no-sound']);
  }
});
