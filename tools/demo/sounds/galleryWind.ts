import { noiseSource } from '@/core/dsp/noise';
import { filter, level, render, TAU } from '../synth';
import type { DemoSound } from '../types';

/** Wind through the railing, with one side wired the wrong way round: mixed to mono it nearly vanishes. */
export const galleryWind: DemoSound = {
  fileName: 'gallery wind.ogg',
  group: 'weather',
  rateHz: 48_000,
  writer: 'ogg',
  settings: { quality: 6 },
  make(rateHz) {
    const noise = noiseSource(63);
    const other = noiseSource(64);
    const howl = filter(rateHz, 9, 'band');
    const air = filter(rateHz, 1, 'low');
    const wind = render(10, rateHz, (t) => {
      const gust = 0.5 + 0.5 * Math.sin(TAU * 0.21 * t + Math.sin(TAU * 0.13 * t) * 2);
      return howl(noise(), 340 + 420 * gust) * gust + air(noise(), 300) * 0.5;
    });
    const right = wind.map((x) => -x * 0.9 + other() * 0.004);
    return level([wind, right], -7);
  },
};
