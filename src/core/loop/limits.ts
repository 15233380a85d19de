import { BijouError } from '../errors';
import type { Stretch } from '../marks';
import { checkSpan } from '../recipe/steps/span';
import type { Shape } from '../recipe/types';

/** A shorter loop is a tone, not a loop; most players refuse it. */
export const SHORTEST_LOOP = 32;

/** @throws bad-span unless the loop lies inside the sound and is long enough. */
export function checkLoop(loop: Stretch, before: Shape): void {
  checkSpan(loop, before);
  const frames = loop.endFrame - loop.startFrame;
  if (frames >= SHORTEST_LOOP) return;
  throw new BijouError(
    'bad-span',
    `A loop of ${frames} frames is too short: it has at least ${SHORTEST_LOOP}.`,
    'Set its ends farther apart.',
  );
}
