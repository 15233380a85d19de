import { level, render, swell, TAU } from '../synth';
import type { DemoSound } from '../types';

/** A diaphone's two notes: a long growl that drops at its end. */
export const foghorn: DemoSound = {
  fileName: 'foghorn.wav',
  group: 'signals',
  rateHz: 48_000,
  writer: 'wav',
  settings: { bits: 24 },
  make(rateHz) {
    let phase = 0;
    const horn = render(6.5, rateHz, (t) => {
      if (t < 0.4 || t > 5.4) return 0;
      const hz = t < 4.3 ? 174 : 174 - 70 * Math.min(1, (t - 4.3) / 0.25);
      phase += (TAU * hz) / rateHz;
      let sum = 0;
      for (let k = 1; k <= 14; k++) sum += Math.sin(k * phase + k * k * 0.3) / k ** 1.2;
      const beat = 1 + 0.25 * Math.sin(TAU * 26 * t);
      return sum * beat * swell(t - 0.4, 0.18, 5, 0.35);
    });
    return level([horn], -3);
  },
};
