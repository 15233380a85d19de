import { noiseSource } from '@/core/dsp/noise';
import { filter, level, render, TAU } from '../synth';
import type { DemoSound } from '../types';

/** Rain on the gallery's iron; somebody handed it over as MP3. */
export const rain: DemoSound = {
  fileName: 'rain on the gallery.mp3',
  group: 'weather',
  rateHz: 44_100,
  writer: 'mp3',
  settings: { kbps: 128 },
  make(rateHz) {
    const side = (seed: number) => {
      const noise = noiseSource(seed);
      const hiss = filter(rateHz, 0.9, 'high');
      let ring = 0;
      let hz = 3000;
      let since = 0;
      return render(12, rateHz, () => {
        const n = noise();
        if (n > 0.9991) {
          ring = 0.5 + Math.abs(noise()) * 0.5;
          hz = 1800 + 3800 * Math.abs(noise());
          since = 0;
        }
        since += 1 / rateHz;
        ring *= 0.9975;
        return hiss(n, 2600) * 0.16 + Math.sin(TAU * hz * since) * ring * 0.7;
      });
    };
    return level([side(101), side(202)], -9);
  },
};
