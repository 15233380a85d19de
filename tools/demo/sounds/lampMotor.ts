import { noiseSource } from '@/core/dsp/noise';
import { filter, level, render, TAU } from '../synth';
import type { DemoSound } from '../types';

/** The clockwork that turns the lamp: hum, gear teeth, and one tick a turn. */
export const lampMotor: DemoSound = {
  fileName: 'lamp motor.wav',
  group: 'lighthouse',
  rateHz: 22_050,
  writer: 'wav',
  settings: { bits: 16 },
  make(rateHz) {
    const noise = noiseSource(7);
    const gears = filter(rateHz, 8, 'band');
    const motor = render(8, rateHz, (t) => {
      const hum =
        Math.sin(TAU * 50 * t) + 0.5 * Math.sin(TAU * 100 * t + 1) + 0.2 * Math.sin(TAU * 300 * t);
      const tooth = (t * 13) % 1;
      const turn = t % 2;
      const tick = turn < 0.03 ? Math.sin(TAU * 1900 * turn) * Math.exp(-turn * 160) : 0;
      return hum * 0.3 + gears(noise(), 1400) * Math.exp(-tooth * 9) * 0.6 + tick * 1.2;
    });
    return level([motor], -12);
  },
};
