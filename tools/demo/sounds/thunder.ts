import { noiseSource } from '@/core/dsp/noise';
import { filter, level, render, swell } from '../synth';
import type { DemoSound } from '../types';

/** Thunder above the skerry, from a recorder that writes floating point: its crack lies above full scale. */
export const thunder: DemoSound = {
  fileName: 'thunder.wav',
  group: 'weather',
  rateHz: 48_000,
  writer: 'wav',
  settings: { bits: 32 },
  make(rateHz) {
    const side = (seed: number, delay: number) => {
      const noise = noiseSource(seed);
      const rumble = filter(rateHz, 0.8, 'low');
      const crack = filter(rateHz, 1.2, 'band');
      return render(4.5, rateHz, (time) => {
        const t = time - delay;
        if (t < 0) return 0;
        const n = noise();
        const first = crack(n, 1_400) * Math.exp(-t * 14) * 2.2;
        const roll = 0.7 + 0.3 * Math.sin(5 * t) * Math.sin(2.3 * t);
        return first + rumble(n, 110 - 14 * t) * roll * swell(t, 0.08, 4.3, 3.4) * 3;
      });
    };
    return level([side(3_301, 0.1), side(3_302, 0.112)], 2.4);
  },
};
