import { planJoin, type Join, type PartFacts } from '@/core/join/plan';
import { joined } from '@/core/join/render';
import { collectChannels } from '@/core/pcm/pcm';
import { sourceFromChannels } from '@/core/pcm/source';
import { emptyRecipe } from '@/core/recipe/types';

const RATE = 8_000;

const constant = (frames: number, value: number) => new Float32Array(frames).fill(value);

const factsOf = (frames: number, more: Partial<PartFacts> = {}): PartFacts => ({
  name: 'part',
  shape: { rateHz: RATE, channelCount: 1, frames },
  recipe: emptyRecipe,
  bitDepth: null,
  ...more,
});

/** Joins one-channel parts with gaps in frames; what is not mixed is crossfaded. */
async function joinedOf(
  sounds: Float32Array[],
  gaps: number[],
  overlap: Join['overlap'] = 'crossfade',
  blockFrames = 100,
) {
  const join: Join = {
    parts: gaps.map((gap, soundId) => ({ soundId, gapSeconds: gap / RATE })),
    overlap,
    rateHz: null,
    channelCount: null,
  };
  const plan = planJoin(
    join,
    sounds.map(({ length }) => factsOf(length)),
  );
  const closed: number[] = [];
  const parts = plan.placed.map((place, i) => ({
    ...place,
    open: async () => ({
      source: sourceFromChannels([sounds[i]!], RATE, { blockFrames }),
      close: async () => void closed.push(i),
    }),
  }));
  const [samples] = await collectChannels(joined(parts, plan.shape, overlap));
  return { samples: samples!, plan, closed };
}

/** Equal power, each frame by the middle of its place: worked out here, not by the code that is tested. */
const rise = (frame: number, of: number) => Math.sin((Math.PI / 2) * ((frame + 0.5) / of));

test('a crossfade is as long as the overlap, to the frame, on both sides', async () => {
  const OVERLAP = 50;
  const { samples } = await joinedOf([constant(400, 1), constant(300, 0)], [-OVERLAP, 0]);
  expect(samples.length).toBe(650);
  for (let i = 0; i < 350; i++) expect(samples[i]).toBe(1);
  for (let i = 0; i < OVERLAP; i++) {
    expect(samples[350 + i]).toBeCloseTo(rise(OVERLAP - 1 - i, OVERLAP), 6);
  }
  for (let i = 400; i < 650; i++) expect(samples[i]).toBe(0);
  const other = await joinedOf([constant(400, 0), constant(300, 1)], [-OVERLAP, 0]);
  for (let i = 0; i < OVERLAP; i++) {
    expect(other.samples[350 + i]).toBeCloseTo(rise(i, OVERLAP), 6);
  }
  expect(other.samples[349]).toBe(0);
  expect(other.samples[400]).toBe(1);
});

test('an overlap of all that a part has, and parts that meet without one', async () => {
  const { plan } = await joinedOf(
    [constant(100, 1), constant(100, 1), constant(90, 1)],
    [-40, -60, 0],
  );
  expect(
    plan.placed.map(({ startFrame, sharedBefore, sharedBehind }) => [
      startFrame,
      sharedBefore,
      sharedBehind,
    ]),
  ).toEqual([
    [0, 0, 40],
    [60, 40, 60],
    [100, 60, 0],
  ]);
  expect(plan.shape.frames).toBe(190);
  const meeting = await joinedOf([constant(10, 1), constant(10, 1)], [0, 0]);
  expect([...meeting.samples]).toEqual(Array<number>(20).fill(1));
  const mixed = await joinedOf([constant(10, 1), constant(10, 0.5)], [-4, 0], 'mix');
  expect([...mixed.samples]).toEqual([
    ...Array<number>(6).fill(1),
    ...Array<number>(4).fill(1.5),
    ...Array<number>(6).fill(0.5),
  ]);
});

test('parts longer than a block are read on, and each is closed when it has ended', async () => {
  const long = Float32Array.from({ length: 150_000 }, (_, i) => (i % 1_000) / 1_000);
  const { samples, closed } = await joinedOf(
    [long, constant(10, 1), long],
    [7, 5, 0],
    'mix',
    33_333,
  );
  expect(samples.slice(0, 150_000)).toEqual(long);
  expect([...samples.slice(150_000, 150_022)]).toEqual([
    ...Array<number>(7).fill(0),
    ...Array<number>(10).fill(1),
    ...Array<number>(5).fill(0),
  ]);
  expect(samples.slice(150_022)).toEqual(long);
  expect(closed).toEqual([0, 1, 2]);
});

test('a part that ends before its end is a fault, and whatever was open is closed', async () => {
  let closed = 0;
  const plan = planJoin(
    { parts: [{ soundId: 1, gapSeconds: 0 }], overlap: 'mix', rateHz: null, channelCount: null },
    [factsOf(500)],
  );
  const parts = plan.placed.map((place) => ({
    ...place,
    open: async () => ({
      source: sourceFromChannels([constant(400, 1)], RATE),
      close: async () => void closed++,
    }),
  }));
  await expect(collectChannels(joined(parts, plan.shape, 'mix'))).rejects.toThrow(
    /ended before its end/,
  );
  expect(closed).toBe(1);
});

describe('a common layout', () => {
  const one = (channelCount: number, speakerMask?: number) =>
    factsOf(100, { shape: { rateHz: RATE, channelCount, frames: 100, speakerMask } });
  const planned = (...parts: PartFacts[]) =>
    planJoin(
      {
        parts: parts.map((_, soundId) => ({ soundId, gapSeconds: 0 })),
        overlap: 'mix',
        rateHz: null,
        channelCount: null,
      },
      parts,
    );
  test('is the one that all have, with its speakers; else stereo', () => {
    expect(planned(one(1), one(1)).shape.channelCount).toBe(1);
    expect(planned(one(1), one(2)).shape.channelCount).toBe(2);
    // Two channels are stereo, whatever they are said to be for.
    expect(planned(one(2, 0x3), one(2, 0x600)).placed[1]!.recipe.steps).toEqual([]);
    expect(planned(one(6, 0x60f), one(6, 0x60f)).shape).toMatchObject({
      channelCount: 6,
      speakerMask: 0x60f,
    });
    // Another number of channels with known speakers is mixed.
    expect(planned(one(6, 0x3f), one(5, 0x37)).shape.channelCount).toBe(2);
  });
  test('and what a part needs for it is a step, and said', () => {
    const [mono] = planned(one(1), one(2)).placed;
    expect(mono!.recipe.steps).toEqual([
      { kind: 'channels', on: true, params: { mode: 'stereo' } },
    ]);
    expect(planned(one(2), one(2)).placed[0]!.conversions).toEqual([]);
    const deep = planned(factsOf(100, { bitDepth: 24 }), factsOf(100, { bitDepth: 32 })).placed;
    expect(deep.map(({ conversions }) => conversions)).toEqual([
      ['24-bit → 32-bit float: nothing is lost'],
      [],
    ]);
    const slow = planned(
      factsOf(100),
      factsOf(100, { shape: { rateHz: 4_000, channelCount: 1, frames: 100 } }),
    );
    expect(slow.placed[1]).toMatchObject({
      frames: 200,
      recipe: { steps: [{ kind: 'resample', on: true, params: { rateHz: RATE } }] },
    });
  });
});
