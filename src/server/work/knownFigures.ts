import { LRUCache } from 'lru-cache';
import type { RawDescription } from '@/core/formats/raw/reader';
import type { StepTools } from '@/core/recipe/types';

/** By stored source and steps. Each thread has its own. */
const known = new LRUCache<string, { figure: unknown }>({ max: 200 });

/**
 * What the steps of a recipe measure on a stored source, found once by a thread: the files of many destinations, and
 * many trials, are made behind the same steps.
 */
export function knownFigures(
  source: string,
  raw: RawDescription | null,
): NonNullable<StepTools['figure']> {
  return async <Figure>(steps: string, measure: () => Promise<Figure>) => {
    const key = JSON.stringify([source, raw, steps]);
    const found = known.get(key);
    if (found) return found.figure as Figure;
    const figure = await measure();
    known.set(key, { figure });
    return figure;
  };
}
