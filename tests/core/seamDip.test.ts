import { measureSeam } from '@/core/loop/seam';
import { sourceFromChannels } from '@/core/pcm/source';
import { rendered, step } from './files';
import { collectChannels } from '@/core/pcm/pcm';
import { noise } from './signals';

/** A hole at the seam is heard, however smoothly it is dug. */

const RATE = 44_100;
const FRAMES = 4 * RATE;
const bed = noise(FRAMES, 3, 0.4);

async function seamOf(sound: Float32Array, curve: string, seconds: number) {
  const frames = Math.round(seconds * RATE);
  const span = { startFrame: RATE, endFrame: 3 * RATE };
  const params = {
    introFrames: 0,
    tailFrames: 0,
    seam: 'crossfade',
    crossfadeFrames: frames,
    curve,
  };
  const loop = step('loop', { ...span, ...params });
  const [made] = await collectChannels(await rendered([loop], [sound], undefined, RATE));
  return measureSeam(sourceFromChannels([made!], RATE), span);
}

/** What ends the loop is what leads up to its start, turned over. */
const opposed = bed.slice();
for (let i = 0; i < RATE; i++) opposed[2 * RATE + i] = -bed[i]!;

test.each([0.05, 0.2, 0.5])('opposite polarity in a crossfade of %f s', async (seconds) => {
  const found = await seamOf(opposed, 'linear', seconds);
  expect(found.dipDb).toBeGreaterThan(8);
  expect(found.score).toBeLessThan(80);
});

test('what fades well has no dip, and a rhythm has none either', async () => {
  for (const seconds of [0.05, 0.5]) {
    const { dipDb, score } = await seamOf(bed, 'equal-power', seconds);
    expect(dipDb).toBeLessThan(1.5);
    expect(score).toBeGreaterThan(95);
  }
  // A stroke four times a second, which is silent in between.
  const rhythm = bed.map((x, i) => x * Math.exp(-((i % (RATE / 4)) / RATE) * 40));
  const source = sourceFromChannels([rhythm], RATE);
  const { dipDb } = await measureSeam(source, { startFrame: 0, endFrame: FRAMES });
  expect(dipDb).toBeLessThan(1.5);
});
