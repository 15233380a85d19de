import { noiseSource } from '@/core/dsp/noise';
import { filter, level, render, TAU } from '../synth';
import type { DemoSound } from '../types';

/** A loop with a bad seam: from the crest of one wave into the trough of another. */
export const surfLoop = { startFrame: 138_676, endFrame: 844_276 };

/** Waves over rocks: two independent sides whose swell returns at the end to where it began. */
export const surfBed: DemoSound = {
  fileName: 'surf bed.wav',
  group: 'weather',
  rateHz: 44_100,
  writer: 'wav',
  settings: { bits: 16 },
  make(rateHz) {
    const seconds = 24;
    const side = (seed: number, shift: number) => {
      const noise = noiseSource(seed);
      const body = filter(rateHz, 0.8, 'low');
      const spray = filter(rateHz, 1.2, 'band');
      return render(seconds, rateHz, (t) => {
        const wave = (0.5 + 0.5 * Math.sin((TAU * 3 * t) / seconds + shift)) ** 2;
        const n = noise();
        return (
          body(n, 180 + 900 * wave) * (0.35 + wave) + spray(n, 2500 + 2000 * wave) * wave * 0.3
        );
      });
    };
    return level([side(11, 0), side(29, 0.7)], -6);
  },
};
