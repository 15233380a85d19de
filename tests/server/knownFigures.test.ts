import { emptyRecipe, type StepTools } from '@/core/recipe/types';
import { applyRecipe } from '@/core/recipe/recipe';
import { sourceFromChannels, streamOf } from '@/core/pcm/source';
import { collectChannels } from '@/core/pcm/pcm';
import { knownFigures } from '@/server/work/knownFigures';
import { noise } from '../core/signals';

test('what steps measure is measured once for a source, and anew for another', async () => {
  const recipe = {
    ...emptyRecipe,
    steps: [
      { kind: 'offset', on: true, params: {} },
      { kind: 'normalise', on: true, params: { to: 'peak', target: -3 } },
    ],
  };
  let read = 0;
  async function shaped(seed: number, figure?: StepTools['figure']) {
    const sound = sourceFromChannels([noise(20_000, seed, 0.4).map((x) => x + 0.1)], 44_100);
    const counted = { ...sound, from: (at: number) => (read++, sound.from(at)) };
    const tools = { note: () => undefined, ...(figure && { figure }) };
    const [channel] = await collectChannels(streamOf(await applyRecipe(recipe, counted, tools)));
    return channel!;
  }
  const plain = await shaped(1);
  const readPlain = read;
  read = 0;
  expect(await shaped(1, knownFigures('one', null))).toEqual(plain);
  expect(read).toBe(readPlain);
  read = 0;
  expect(await shaped(1, knownFigures('one', null))).toEqual(plain);
  expect(read).toBe(1);
  // Another source, and the same bytes understood in another way, are measured for themselves.
  const other = await shaped(2);
  expect(await shaped(2, knownFigures('two', null))).toEqual(other);
  read = 0;
  await shaped(2, knownFigures('two', { sampleRateHz: 1, channels: 1, encoding: 'u8' } as never));
  expect(read).toBe(readPlain);
});
