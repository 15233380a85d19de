import { openSound, sourceOf } from '@/core/formats/open';
import { readOutcome, type Outcome } from '@/core/recipe/outcome';
import { withFile } from '../files/bytes';
import type { OutcomeTask } from './tasks';

/** What comes of a recipe on a stored sound. */
export function findOutcome({ source, raw, sourceShape, recipe }: OutcomeTask): Promise<Outcome> {
  return withFile(source, async (bytes) => {
    const reader = await openSound(bytes, raw ?? undefined);
    return readOutcome(recipe, sourceOf(reader, sourceShape.frames), reader.header);
  });
}
