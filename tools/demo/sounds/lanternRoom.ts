import { noiseSource } from '@/core/dsp/noise';
import { filter, level, render, TAU } from '../synth';
import type { DemoSound } from '../types';

/** The lantern room by four microphones, two of them under the roof: nobody has said how those are mixed down. */
export const lanternRoom: DemoSound = {
  fileName: 'lantern room.wav',
  group: 'machines',
  rateHz: 48_000,
  writer: 'wav',
  settings: { bits: 16 },
  speakers: ['L', 'R', 'Tfl', 'Tfr'],
  make(rateHz) {
    const microphone = (seed: number, hum: number) => {
      const noise = noiseSource(seed);
      const air = filter(rateHz, 0.7, 'low');
      return render(3, rateHz, (t) => {
        const tick = Math.exp(-((t * 1.5) % 1) * 90) * Math.sin(TAU * 2_300 * t);
        return air(noise(), 900) * 0.3 + Math.sin(TAU * 98 * t) * hum + tick * 0.25;
      });
    };
    return level(
      [microphone(41, 0.2), microphone(42, 0.18), microphone(43, 0.05), microphone(44, 0.04)],
      -9,
    );
  },
};
