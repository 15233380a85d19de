import { BijouError } from '../errors';
import type { Stretch } from '../marks';
import { checkSpan } from '../recipe/steps/span';
import type { Shape } from '../recipe/types';
import { formatTime } from '../time';
import { count } from '../tradeNames';

/** A shorter loop is a tone, not a loop; most players refuse it. */
export const SHORTEST_LOOP = 32;

/** @throws bad-span unless the loop lies inside the sound and is long enough. */
export function checkLoop(loop: Stretch, before: Shape): void {
  if (loop.startFrame >= before.frames) throw startsBehind(loop, before);
  checkSpan(loop, before);
  const frames = loop.endFrame - loop.startFrame;
  if (frames >= SHORTEST_LOOP) return;
  throw new BijouError(
    'bad-span',
    `A loop of ${frames} frames is too short: it has at least ${SHORTEST_LOOP}.`,
    'Set its ends farther apart.',
  );
}

function startsBehind({ startFrame }: Stretch, { frames, rateHz }: Shape): BijouError {
  return new BijouError(
    'bad-span',
    `The loop starts behind the sound, at frame ${count(startFrame)}: the sound ends at ${count(frames)} ` +
      `(${formatTime(frames / rateHz)}).`,
    'Choose a start inside the sound.',
  );
}
