import { BijouError } from '../errors';
import { groupBy } from '../group';
import type { Brief } from './schema';

/** The briefs that a project can send its sounds to: those that come with Bijou, and people's own. */
export type BriefCatalogue = readonly Brief[];

/** @throws not-found with the names there are. */
export function briefById(briefs: BriefCatalogue, id: string): Brief {
  const brief = briefs.find((one) => one.id === id);
  if (brief) return brief;
  throw new BijouError(
    'not-found',
    `There is no brief "${id}".`,
    `The briefs are ${briefs.map((one) => one.id).join(', ')}.`,
  );
}

/**
 * The brief of something that is stored. One that this Bijou does not know, because it is from another
 * version, wants nothing: what is stored can be shown all the same.
 */
export function storedBrief(briefs: BriefCatalogue, id: string): Brief {
  const known = briefs.find((brief) => brief.id === id);
  return (
    known ?? { id, version: 1, title: `“${id}”, not known here`, purpose: '', files: [], notes: [] }
  );
}

/** Where sounds go: titles of briefs by sound. */
export function destinationsBySound(
  assignments: readonly { soundId: number; briefId: string }[],
  briefs: BriefCatalogue,
): Map<number, string[]> {
  const groups = groupBy(assignments, ({ soundId }) => soundId);
  return new Map(
    [...groups].map(([id, own]) => [
      id,
      own.map(({ briefId }) => storedBrief(briefs, briefId).title),
    ]),
  );
}
