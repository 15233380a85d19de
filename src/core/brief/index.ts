import { BijouError } from '../errors';
import { groupBy } from '../group';
import { builtinBriefs } from './builtin';
import type { Brief } from './schema';

export { builtinBriefs } from './builtin';

/** @throws not-found with the names there are. */
export function briefById(id: string): Brief {
  const brief = builtinBriefs.find((b) => b.id === id);
  if (brief) return brief;
  throw new BijouError(
    'not-found',
    `There is no brief "${id}".`,
    `The briefs are ${builtinBriefs.map((b) => b.id).join(', ')}.`,
  );
}

/**
 * The brief of something that is stored. One that this Bijou does not know, because it is from another
 * version, wants nothing: what is stored can be shown all the same.
 */
export function storedBrief(id: string): Brief {
  const known = builtinBriefs.find((brief) => brief.id === id);
  return (
    known ?? { id, version: 1, title: `“${id}”, not known here`, purpose: '', files: [], notes: [] }
  );
}

/** Where sounds go: titles of briefs by sound. */
export function destinationsBySound(
  assignments: readonly { soundId: number; briefId: string }[],
): Map<number, string[]> {
  const groups = groupBy(assignments, ({ soundId }) => soundId);
  return new Map(
    [...groups].map(([id, own]) => [id, own.map(({ briefId }) => storedBrief(briefId).title)]),
  );
}
