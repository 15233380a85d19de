import { level, render, swell, TAU } from '../synth';
import type { DemoSound } from '../types';

const calls = [0.2, 0.95, 1.45, 1.85, 2.2];

/** Five falling cries, kept as float by somebody's field recorder. */
export const gull: DemoSound = {
  fileName: 'gull.wav',
  group: 'creatures',
  rateHz: 44_100,
  writer: 'wav',
  settings: { bits: 32 },
  make(rateHz) {
    let phase = 0;
    const cry = render(3, rateHz, (t) => {
      const start = calls.findLast((at) => at <= t);
      if (start === undefined) return 0;
      const s = t - start;
      const long = start < 0.5 ? 0.65 : 0.32;
      if (s > long) return 0;
      const bend = Math.sin((Math.PI * s) / long) ** 0.5;
      phase += (TAU * (900 + 520 * bend - 300 * (s / long))) / rateHz;
      const voice = Math.sin(phase) + 0.6 * Math.sin(2 * phase) + 0.45 * Math.sin(3 * phase + 0.5);
      return voice * (1 + 0.3 * Math.sin(TAU * 70 * t)) * swell(s, 0.04, long, 0.1);
    });
    return level([cry], -8);
  },
};
