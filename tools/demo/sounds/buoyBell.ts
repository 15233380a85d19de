import { level, render, TAU } from '../synth';
import type { DemoSound } from '../types';

/** Partials of a bell: ratio to the strike note, loudness, decay in 1/s. */
const partials: [ratio: number, loudness: number, decay: number][] = [
  [0.5, 0.6, 0.7],
  [1, 1, 1.1],
  [1.19, 0.8, 1.4],
  [1.5, 0.4, 2],
  [2, 0.7, 2.4],
  [2.74, 0.3, 4],
  [4.1, 0.2, 7],
];

/** A bell buoy that a swell strikes twice; each side hears a slightly different bell. */
export const buoyBell: DemoSound = {
  fileName: 'buoy bell.wav',
  group: 'signals',
  rateHz: 48_000,
  writer: 'wav',
  settings: { bits: 24 },
  make(rateHz) {
    const side = (detune: number) =>
      render(6, rateHz, (t) =>
        [0.05, 2.3].reduce((sum, at, strike) => {
          const s = t - at;
          if (s < 0) return sum;
          const bell = partials.reduce(
            (b, [ratio, loud, decay]) =>
              b + loud * Math.sin(TAU * 392 * ratio * detune * s) * Math.exp(-decay * s),
            0,
          );
          return (
            sum + bell * (strike === 0 ? 1 : 0.55) * Math.min(1, s * 400) * Math.min(1, (6 - t) * 4)
          );
        }, 0),
      );
    return level([side(1), side(1.0012)], -4);
  },
};
