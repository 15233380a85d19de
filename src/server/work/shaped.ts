import type { ByteSource } from '@/core/bytes/source';
import type { PcmSource } from '@/core/pcm/source';
import { applyRecipe } from '@/core/recipe/recipe';
import { emptyRecipe, type StepTools } from '@/core/recipe/types';
import { figureOf, resting } from './figures';
import type { Asker, Interest } from './interest';
import type { ListenedSound } from './listenedSound';
import { plainSound } from './plainSound';

/**
 * A stored sound behind its recipe, to be read as fast as it goes. What its steps have to measure is measured
 * once, in the pauses that more urgent questions leave.
 */
export async function openShaped(
  file: ByteSource,
  sound: ListenedSound,
  asker: Asker,
): Promise<PcmSource> {
  const plain = await plainSound(file, sound);
  // A working copy knows nothing of its sound's loop.
  const source = sound.loop ? { ...plain, loop: sound.loop } : plain;
  const recipe = sound.recipe ?? emptyRecipe;
  let interest: Interest | null = null;
  const measured = resting(source, async () => interest?.rest());
  const figure: StepTools['figure'] = (steps, measure) =>
    figureOf({ sound, asker }, steps, (found) => {
      interest = found;
      return measure();
    });
  const tools = { note: () => undefined, figure };
  // The first time to measure; the second time everything is known.
  await applyRecipe(recipe, measured, tools);
  return applyRecipe(recipe, source, tools);
}
