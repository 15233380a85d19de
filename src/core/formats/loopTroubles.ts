import type { Loop } from '../marks';
import { count } from '../tradeNames';
import { plural } from '../words';

/** Of a loop whose ends are the wrong way round. */
export function reversedLoop(startFrame: number, endFrame: number): string {
  return (
    `It states a loop that ends at frame ${count(endFrame)}, before it begins at ${count(startFrame)}: ` +
    'the loop is not used.'
  );
}

/** Of a file with several loops. */
export function moreLoops(loops: number): string {
  return `It states ${count(loops)} loops; only the first is used.`;
}

/** What only WAV can say of a loop. */
export function lostManner(loop: Loop | null): string[] {
  if (!loop) return [];
  const { isBackward, times } = loop;
  return [
    ...(isBackward ? ['that the loop runs backward'] : []),
    ...(times === undefined ? [] : [`that the loop ends after ${plural(times, 'pass')}`]),
  ];
}
