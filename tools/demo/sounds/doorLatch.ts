import { noiseSource } from '@/core/dsp/noise';
import { filter, level, render, TAU } from '../synth';
import type { DemoSound } from '../types';

const strikes: [second: number, loudness: number][] = [
  [0.12, 0.5],
  [0.19, 0.25],
  [0.34, 1],
];
const partials: [hz: number, decay: number][] = [
  [640, 30],
  [1_730, 45],
  [2_910, 60],
  [5_200, 90],
];

/** An iron latch, recorded far too finely, as door latches are. */
export const doorLatch: DemoSound = {
  fileName: 'door latch.wav',
  group: 'lighthouse',
  rateHz: 96_000,
  writer: 'wav',
  settings: { bits: 24 },
  make(rateHz) {
    const noise = noiseSource(41);
    const wood = filter(rateHz, 2, 'band');
    const latch = render(1.1, rateHz, (t) => {
      const n = wood(noise(), 420);
      return strikes.reduce((sum, [at, loudness]) => {
        const s = t - at;
        if (s < 0) return sum;
        const metal = partials.reduce(
          (m, [hz, d]) => m + Math.sin(TAU * hz * s) * Math.exp(-s * d),
          0,
        );
        return sum + loudness * (metal * 0.3 + n * Math.exp(-s * 55) * 3);
      }, 0);
    });
    return level([latch], -1.5);
  },
};
