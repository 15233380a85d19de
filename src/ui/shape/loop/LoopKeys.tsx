import { pressButton, useKeys } from '../../shared/keys';
import { useHabits } from '../desk';
import { lensWidths } from './lens';

/** Keys of the loop bench; those of the picture and the mark are the workbench's. */
export function LoopKeys() {
  useKeys({
    s: () => pressButton('Around the seam'),
    d: () => pressButton('The whole loop'),
    i: () => pressButton('Intro, then loop'),
    x: () => pressButton('Cut hard'),
    f: () => pressButton('Crossfade'),
    b: () => pressButton('Wrap the tail'),
    t: () => undefined,
    enter: () => undefined,
    'shift+f': () => undefined,
    'ctrl+a': () => undefined,
    n: () => undefined,
    '[': () => lens(-1),
    ']': () => lens(1),
  });
  return null;
}

function lens(by: -1 | 1): void {
  useHabits.setState(({ lens: at }) => ({
    lens: Math.max(0, Math.min(lensWidths.length - 1, at + by)),
  }));
}
