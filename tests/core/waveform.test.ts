import fc from 'fast-check';
import { memorySource } from '@/core/bytes/source';
import { openSound } from '@/core/formats/open';
import type { SoundHeader, Warning } from '@/core/formats/types';
import { measured, probe } from '@/core/measure/probe';
import { PyramidBuilder, readBucketPeaks, readColumns } from '@/core/measure/pyramid';
import { thumbnailColumns, ThumbnailBuilder } from '@/core/measure/thumbnail';
import { encode } from './files';
import { noise } from './signals';

/** Pictures of a waveform against the same, worked out the long way from the samples. */

function pyramidOf(channels: Float32Array[], blockFrames: number): Uint8Array {
  const builder = new PyramidBuilder(channels.length);
  for (let at = 0; at < channels[0]!.length; at += blockFrames) {
    builder.push(channels.map((channel) => channel.subarray(at, at + blockFrames)));
  }
  return builder.finish();
}

describe('the waveform', () => {
  test('a column holds the extremes of all buckets that it touches, and their mean square', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 1, max: 40_000 }),
        fc.integer({ min: 100, max: 9_000 }),
        fc.tuple(fc.nat(1_000), fc.nat(1_000)),
        fc.integer({ min: 1, max: 40 }),
        async (frames, block, ends, columns) => {
          const channels = [noise(frames, 3), noise(frames, 4, 0.2)];
          const pyramid = memorySource(pyramidOf(channels, block));
          const [from, to] = ends
            .map((end) => Math.round((end * frames) / 1_000))
            .sort((a, b) => a - b);
          const end = Math.max(from! + 1, to!);
          const found = await readColumns(pyramid, from!, end, columns);
          const perColumn = (end - from!) / columns;
          // The coarsest level whose buckets are no longer than a column, and of which there is one at all.
          let size = 256;
          while (size * 4 <= perColumn && Math.ceil(frames / size) > 1) size *= 4;
          expect(found.length).toBe(2);
          found.forEach((list, c) => {
            expect(list.length).toBe(columns);
            list.forEach(({ min, max, rms }, i) => {
              const place = (n: number) => (from! + n * perColumn) / size;
              const first = Math.floor(place(i));
              const last = Math.max(first + 1, Math.ceil(place(i + 1)));
              const all = channels[c]!.subarray(first * size, last * size);
              expect(min).toBe(Math.min(...all));
              expect(max).toBe(Math.max(...all));
              expect(Math.abs(rms - Math.sqrt(meanOfBuckets(all, size)))).toBeLessThan(1e-4);
            });
          });
        },
      ),
      { numRuns: 60 },
    );
  });

  /** Buckets count alike, the last one of a level also where it is shorter. */
  function meanOfBuckets(samples: Float32Array, size: number): number {
    const squares: number[] = [];
    for (let at = 0; at < samples.length; at += size) {
      const part = samples.subarray(at, at + size);
      squares.push(
        size === 256
          ? part.reduce((sum, x) => sum + x * x, 0) / part.length
          : meanOfBuckets(part, size / 4),
      );
    }
    return squares.reduce((sum, x) => sum + x, 0) / squares.length;
  }

  test('the loudest sample of every bucket, on whichever side and channel', async () => {
    const channels = [noise(5_000, 1, 0.3), noise(5_000, 2, 0.3)];
    channels[0]![300] = -0.9;
    channels[1]![4_999] = 0.8;
    const peaks = await readBucketPeaks(memorySource(pyramidOf(channels, 777)));
    expect(peaks.length).toBe(20);
    peaks.forEach((peak, i) => {
      const parts = channels.flatMap((one) => [...one.subarray(i * 256, (i + 1) * 256)]);
      expect(peak).toBe(Math.max(...parts.map(Math.abs)));
    });
  });

  test('of nothing there is no picture; of other bytes it is not made up', async () => {
    const nothing = memorySource(new PyramidBuilder(2).finish());
    expect(nothing.size).toBe(20);
    expect(await readColumns(nothing, 0, 100, 4)).toEqual([[], []]);
    expect(await readBucketPeaks(nothing)).toEqual(new Float32Array(0));
    const whole = pyramidOf([noise(2_000)], 500);
    for (const other of [whole.map((x, i) => (i === 4 ? 2 : x)), whole.slice(0, 19)]) {
      await expect(readColumns(memorySource(other), 0, 9, 1)).rejects.toMatchObject({
        code: 'internal',
        message: 'The stored waveform cannot be read.',
      });
    }
  });

  test('behind its end there is nothing', async () => {
    const pyramid = memorySource(pyramidOf([noise(1_000)], 1_000));
    const [columns] = await readColumns(pyramid, 0, 2_048, 8);
    expect(columns!.slice(4)).toEqual(new Array(4).fill({ min: 0, max: 0, rms: 0 }));
    expect(columns![3]!.max).toBeGreaterThan(0);
  });

  test('grows with its sound', () => {
    // More than a thousand buckets: the list is made longer on the way.
    const sound = noise(256 * 3_000, 9);
    expect(pyramidOf([sound], 65_536)).toEqual(pyramidOf([sound], 100_000));
    const view = new DataView(pyramidOf([sound], 65_536).buffer);
    const at = 20 + 2_999 * 12;
    const last = sound.subarray(256 * 2_999);
    expect(view.getFloat32(at, true)).toBe(Math.min(...last));
    expect(view.getFloat32(at + 4, true)).toBe(Math.max(...last));
  });
});

test('a thumbnail: between 60 and 120 columns of equal length, each with its extremes', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 2_000 }),
      fc.integer({ min: 1, max: 300 }),
      fc.integer({ min: 1, max: 3 }),
      (frames, block, count) => {
        const sound = Array.from({ length: count }, (_, c) => noise(frames, c + 5, 1.3));
        const builder = new ThumbnailBuilder();
        for (let at = 0; at < frames; at += block) {
          builder.push(sound.map((channel) => channel.subarray(at, at + block)));
        }
        let length = 1;
        while (Math.ceil(frames / length) > 120) length *= 2;
        const wanted: number[] = [];
        for (let at = 0; at < frames; at += length) {
          const all = sound.flatMap((channel) => [...channel.subarray(at, at + length)]);
          const rms = Math.sqrt(all.reduce((sum, x) => sum + x * x, 0) / all.length);
          wanted.push(Math.min(...all), Math.max(...all), rms);
        }
        const clamped = wanted.map((x) => Math.max(-1, Math.min(1, x)));
        const found = thumbnailColumns(builder.finish());
        expect(found.length).toBe(wanted.length);
        found.forEach((x, i) => expect(Math.abs(x - clamped[i]!)).toBeLessThan(0.51 / 127));
      },
    ),
    { numRuns: 60 },
  );
});

describe('reading a file to its end', () => {
  test('says how far it is, shows every block, and counts what there is', async () => {
    const bytes = await encode([noise(100_000), noise(100_000, 2)], 8_000, 'wav', { bits: 16 });
    const steps: [number, number | null][] = [];
    let seen = 0;
    const { facts, warnings } = await probe(memorySource(bytes), {
      look: (block) => (seen += block[0]!.length),
      progress: (done, total) => steps.push([done, total]),
    });
    expect(seen).toBe(100_000);
    expect(steps.at(-1)).toEqual([100_000, 100_000]);
    expect(
      steps.every(([done, total], i) => total === 100_000 && done > (steps[i - 1]?.[0] ?? 0)),
    ).toBe(true);
    expect(warnings).toEqual([]);
    expect(facts).toMatchObject({
      frames: 100_000,
      seconds: 12.5,
      bytes: bytes.length,
      bitRateKbps: Math.round((bytes.length * 8) / 12.5) / 1000,
      usedBits: 16,
    });
  });

  test('what a lossy codec gives back uses no bits', async () => {
    const bytes = await encode([noise(8_000)], 8_000, 'mp3', { kbps: 64 });
    expect((await probe(memorySource(bytes))).facts).toMatchObject({
      bitDepth: null,
      usedBits: null,
    });
  });

  test('frames that are promised and do not come are said; as nothing, they are no sound', async () => {
    const { probe: read, header } = await opened();
    expect((await read({ ...header, frames: 150 })).warnings).toMatchObject([
      {
        code: 'truncated',
        message: 'The header promises 150 frames; only 100 could be decoded.',
      },
    ]);
    expect((await read({ ...header, frames: 100 })).warnings).toEqual([]);
    expect((await read({ ...header, frames: 90 })).warnings).toEqual([]);
    expect((await read({ ...header, frames: null })).warnings).toEqual([]);
    // What its reader has said already is not said again.
    for (const code of ['truncated', 'damaged-frames'] as const) {
      const said = { code, message: 'Its reader says so.' };
      expect((await read({ ...header, frames: 150 }, [said])).warnings).toEqual([said]);
    }
    const other = { code: 'checksum', message: 'Another matter.' } as const;
    expect((await read({ ...header, frames: 150 }, [other])).warnings.length).toBe(2);
    await expect(read(header, [], [])).rejects.toMatchObject({
      code: 'no-sound',
      message: expect.stringMatching(/WAV/),
    });
  });

  test('a layout that changes in the middle is refused', async () => {
    const { probe: read, header } = await opened();
    const blocks = [[noise(100)], [noise(100), noise(100)]];
    await expect(read(header, [], blocks)).rejects.toMatchObject({ code: 'damaged-sound' });
  });

  /** Reads a sound of 100 frames whose header and blocks are made up. */
  async function opened() {
    const reader = await openSound(
      memorySource(await encode([noise(100)], 8_000, 'wav', { bits: 16 })),
    );
    const { header } = reader;
    return {
      header,
      probe: async (stated: SoundHeader, warnings: Warning[] = [], blocks = [[noise(100)]]) => {
        const pcm = () => ({
          ...reader.pcm(),
          blocks: (async function* () {
            yield* blocks;
          })(),
        });
        const { pcm: whole, result } = measured({ header: stated, warnings, pcm }, 244);
        for await (const block of whole.blocks) void block;
        return result();
      },
    };
  }

  test('frames that are promised and not there are said, once', async () => {
    const bytes = await encode([noise(8_000)], 8_000, 'ogg', {});
    const { warnings } = await probe(memorySource(bytes.slice(0, bytes.length - 3_000)));
    expect(warnings.length).toBe(1);
    expect(['truncated', 'damaged-frames']).toContain(warnings[0]!.code);
  });
});
