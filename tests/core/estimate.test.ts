import fc from 'fast-check';
import { memorySource, MemorySink } from '@/core/bytes/source';
import { convert } from '@/core/convert';
import { writers } from '@/core/formats';
import { legalKbps } from '@/core/formats/mp3/writer';
import { rateFor } from '@/core/formats/rates';
import { writeSound } from '@/core/formats/write';
import { estimateBytes } from '@/core/oneOff/estimate';
import { estimateFile } from '@/core/oneOff/estimateFile';
import { sourceFromChannels, streamOf } from '@/core/pcm/source';
import { tonesAndNoise } from '../../tools/bench/signal';
import { encode } from './files';
import { noise, sine } from './signals';

/** What a file comes to is known before it is made. */

const marks = {
  tags: { title: 'Lamp room', artist: 'the keeper' },
  loop: { startFrame: 10, endFrame: 900 },
  markers: [{ frame: 5, name: 'door' }],
};

async function both(channels: Float32Array[], rateHz: number, writer: string, settings: object) {
  const sound = sourceFromChannels(channels, rateHz, { blockFrames: 4_000 });
  const sink = new MemorySink();
  await writeSound(streamOf(sound), writer, settings, sink, marks);
  const estimate = await estimateBytes(sound, writer, settings, { marks });
  return { ...estimate, made: sink.size };
}

const constant = [
  ...[8, 16, 24, 32].map((bits) => ['wav', { bits }] as const),
  ...[8, 16, 24].map((bits) => ['aiff', { bits }] as const),
  ['wav-ima-adpcm', {}] as const,
  ...['u8', 's16le'].map((encoding) => ['raw', { encoding }] as const),
];

test.each(constant)('%s with %j is known to the byte at any length', async (writer, settings) => {
  await fc.assert(
    fc.asyncProperty(
      fc.integer({ min: 1_000, max: 30_000 }),
      fc.integer({ min: 1, max: 2 }),
      async (frames, count) => {
        const channels = Array.from({ length: count }, () => new Float32Array(frames));
        const { bytes, made } = await both(channels, 1_000, writer, settings);
        expect(bytes).toBe(made);
      },
    ),
    { numRuns: 25 },
  );
});

const mp3Rates = writers.find(({ id }) => id === 'mp3')!.legal.rates as readonly number[];

test.each(mp3Rates)('MP3 of a constant bit rate at %i Hz is known to the byte', async (rateHz) => {
  await fc.assert(
    fc.asyncProperty(
      fc.integer({ min: 8 * rateHz + 1, max: 12 * rateHz }),
      fc.constantFrom(...legalKbps(rateHz)),
      async (frames, kbps) => {
        const { bytes, isExact, made } = await both([new Float32Array(frames)], rateHz, 'mp3', {
          kbps,
        });
        expect([kbps, isExact, bytes]).toEqual([kbps, true, made]);
      },
    ),
    { numRuns: 3 },
  );
});

const variable = [
  ['ogg', { quality: 5 }],
  ['ogg', { quality: -1 }],
  ['ogg-opus', { kbps: 96 }],
  ['webm', { kbps: 32 }],
  ['m4a', { kbps: 128 }],
  ['mp3', { quality: 2 }],
  ['flac', { bits: 16 }],
  ['c', { encoding: 'u8' }],
] as const;

test.each(variable)(
  '%s with %j is near what is made, read here and there or in order',
  async (writer, settings) => {
    const kind = writers.find(({ id }) => id === writer)!;
    const rateHz = rateFor(kind.legal.rates, 32_000);
    // Loud, soft and in between: no part is like the whole.
    const channels = tonesAndNoise(rateHz, 14, 2).map((channel) =>
      channel.map((x, i) => x * (0.55 + 0.45 * Math.sin((i / rateHz) * 0.7))),
    );
    const { bytes, isExact, made } = await both(channels, rateHz, writer, settings);
    expect(isExact).toBe(false);
    expect(Math.abs(bytes / made - 1)).toBeLessThan(0.06);
    const sound = sourceFromChannels(channels, rateHz, { blockFrames: 4_000 });
    const inOrder = await estimateBytes(sound, writer, settings, { marks, isEntered: false });
    expect(inOrder.bytes).toBe(bytes);
  },
);

test('a short sound is encoded whole: the estimate is what is made', async () => {
  for (const [writer, settings] of variable) {
    const { bytes, isExact, made } = await both([noise(96_000, 3, 0.3)], 48_000, writer, settings);
    expect([writer, bytes, isExact]).toEqual([writer, made, true]);
  }
});

test('steps and tags of a file are counted in', async () => {
  const wav = await encode([sine(44_100, 440, 44_100 * 12)], 44_100, 'wav', { bits: 16 });
  const steps = [{ kind: 'keep', on: true, params: { startFrame: 0, endFrame: 44_100 * 3 } }];
  const conversion = {
    recipe: { version: 1 as const, steps },
    writer: 'ogg',
    settings: {},
    tags: { title: 'Fog' },
  };
  const sink = new MemorySink();
  await convert(memorySource(wav), conversion, sink);
  expect(await estimateFile(memorySource(wav), conversion)).toEqual({
    bytes: sink.size,
    isExact: true,
  });
});
