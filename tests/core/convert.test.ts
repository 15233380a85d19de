import { MemorySink, memorySource } from '@/core/bytes/source';
import { convert, verify } from '@/core/convert';
import type { Recipe } from '@/core/recipe/types';
import { decode, encode, samples } from './files';
import { errorDb, sine } from './signals';

const recipe = (...steps: [kind: string, params: Record<string, unknown>][]): Recipe => ({
  version: 1,
  steps: steps.map(([kind, params]) => ({ kind, on: true, params })),
});

async function run(bytes: Uint8Array, steps: Recipe, writer: string, settings: object) {
  const sink = new MemorySink();
  const read: number[] = [];
  const converted = await convert(memorySource(bytes), { recipe: steps, writer, settings }, sink, {
    progress: (frames) => read.push(frames),
  });
  return { bytes: sink.bytes(), read, ...converted };
}

test('span, channel and rate in one pass give exactly the stated sound', async () => {
  const source = await encode(
    [sine(48_000, 500, 96_000), sine(48_000, 900, 96_000)],
    48_000,
    'wav',
    { bits: 24 },
  );
  const steps = recipe(
    ['keep', { startFrame: 4_800, endFrame: 52_800 }],
    ['channels', { mode: 'right' }],
    ['resample', { rateHz: 44_100 }],
  );
  const { bytes, expected, warnings } = await run(source, steps, 'wav', { bits: 24 });
  expect(expected).toEqual({ rateHz: 44_100, channelCount: 1, frames: 44_100 });
  expect(warnings).toEqual([]);
  const { channels } = await decode(bytes);
  const ideal = Float32Array.from(
    { length: 44_100 },
    (_, i) => 0.5 * Math.sin(2 * Math.PI * 900 * (i / 44_100 + 0.1)),
  );
  expect(errorDb(channels[0]!, ideal, 500, 43_600)).toBeLessThan(-100);
  expect(await verify(memorySource(bytes), expected)).toMatchObject({
    ok: true,
    framesFound: 44_100,
    problems: [],
  });
});

test('a step that is switched off does nothing', async () => {
  const source = await samples.wav();
  const steps = recipe(['keep', { startFrame: 0, endFrame: 10 }]);
  steps.steps[0]!.on = false;
  expect((await run(source, steps, 'ogg', { quality: 3 })).expected.frames).toBe(44_100);
});

test('an impossible span is refused before anything is written', async () => {
  const steps = recipe(['keep', { startFrame: 0, endFrame: 44_101 }]);
  const sink = new MemorySink();
  await expect(
    convert(
      memorySource(await samples.wav()),
      { recipe: steps, writer: 'wav', settings: { bits: 16 } },
      sink,
    ),
  ).rejects.toMatchObject({ code: 'bad-span' });
  expect(sink.bytes()).toHaveLength(0);
});

test('verification is not fooled: wrong length, rate, layout and cut-off files are found', async () => {
  const bytes = await samples.ogg();
  const right = { rateHz: 44_100, channelCount: 2, frames: 44_100 };
  expect((await verify(memorySource(bytes), right)).ok).toBe(true);
  for (const wrong of [{ frames: 44_099 }, { rateHz: 48_000 }, { channelCount: 1 }]) {
    const found = await verify(memorySource(bytes), { ...right, ...wrong });
    expect(found.ok).toBe(false);
    expect(found.problems).toHaveLength(1);
  }
  const cut = await verify(memorySource(bytes.subarray(0, -2_000)), right);
  expect(cut.ok).toBe(false);
  expect(cut.problems.join(' ')).toMatch(/cut off/);
});

test('what does not fit into integers is held at full scale, and said', async () => {
  const loud = await encode([sine(44_100, 100, 4_410, 1.5)], 44_100, 'wav', { bits: 32 });
  const { warnings } = await run(loud, recipe(), 'wav', { bits: 16 });
  expect(warnings).toMatchObject([
    { code: 'clipped', message: expect.stringMatching(/there: [\d,]+ samples; .* 3\.52 dB above/) },
  ]);
  expect((await run(loud, recipe(), 'wav', { bits: 32 })).warnings).toEqual([]);
});

test('progress counts the source to its end', async () => {
  const { read } = await run(await samples.mp3(), recipe(), 'wav', { bits: 16 });
  expect(read.at(-1)).toBe(44_100);
  expect(read).toEqual([...read].sort((a, b) => a - b));
});
