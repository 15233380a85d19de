import { BijouError } from '../errors';
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
