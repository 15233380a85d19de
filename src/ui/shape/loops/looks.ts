import { useEffect, useRef, useState } from 'react';
import { errorFacts, type ErrorFacts } from '@/core/errors';
import { withLoop, type LoopForMany } from '@/core/loop/forMany';
import type { SeamFigures } from '@/core/loop/seam';
import type { SoundMarks } from '@/core/marks';
import { marksAfter, recipeKey, shapeAfter } from '@/core/recipe/recipe';
import type { Recipe, Shape } from '@/core/recipe/types';
import type { Sound } from '@/wire';
import { answerOf } from '../ask';
import { shapeOf } from '../workbench';

/** A recipe with the loop that it leaves, and the shape behind it. */
export interface Looped {
  recipe: Recipe;
  marks: SoundMarks;
  shape: Shape;
}

/** One of many sounds: its loop as it is, and as it would be. */
export interface Look {
  sound: Sound;
  /** null where it has no loop. */
  before: Looped | null;
  after: Looped | null;
  /** Why it cannot have the loop that is wanted. */
  problem: ErrorFacts | null;
}

export function lookOf(sound: Sound, wish: LoopForMany): Look {
  const before = looped(sound, sound.recipe);
  try {
    const recipe = withLoop(
      { shape: shapeOf(sound), marks: sound.facts!, recipe: sound.recipe },
      wish,
    );
    return { sound, before, after: looped(sound, recipe), problem: null };
  } catch (error) {
    return { sound, before, after: null, problem: errorFacts(error) };
  }
}

function looped(sound: Sound, recipe: Recipe): Looped | null {
  try {
    const source = shapeOf(sound);
    const marks = marksAfter(recipe, source, sound.facts!);
    return marks.loop ? { recipe, marks, shape: shapeAfter(recipe, source) } : null;
  } catch {
    return null;
  }
}

/** Where a seam is told from another. */
function keyOf(sound: Sound, { recipe, marks }: Looped): string {
  return `${sound.sourceSha256} ${recipeKey(recipe)} ${JSON.stringify(marks.loop)}`;
}

export type Seams = ReadonlyMap<string, SeamFigures | null>;

export function seamOf(seams: Seams, sound: Sound, of: Looped | null) {
  return of ? seams.get(keyOf(sound, of)) : null;
}

/** The seams before and after, measured one after the other while the page is open; null where that fails. */
export function useSeams(looks: readonly Look[]): Seams {
  const [found, setFound] = useState<Seams>(new Map());
  const latest = useRef(looks);
  latest.current = looks;
  const wanted = looks
    .flatMap(({ sound, before, after }) =>
      [before, after].flatMap((one) => (one ? [keyOf(sound, one)] : [])),
    )
    .join('\n');
  useEffect(() => {
    let isOpen = true;
    const measure = async () => {
      for (const { sound, before, after } of latest.current) {
        for (const one of [before, after]) {
          if (!one?.marks.loop) continue;
          const { recipe, marks } = one;
          const { startFrame, endFrame } = marks.loop!;
          const seam = await answerOf<SeamFigures>({ sound, recipe }, 'seam', {
            startFrame,
            endFrame,
          }).catch(() => null);
          if (!isOpen) return;
          const key = keyOf(sound, one);
          setFound((old) => (old.has(key) ? old : new Map(old).set(key, seam)));
        }
      }
    };
    void measure();
    return () => void (isOpen = false);
  }, [wanted]);
  return found;
}
