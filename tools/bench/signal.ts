import { noiseSource } from '@/core/dsp/noise';
import { TAU } from '../demo/synth';

/** The bench's signal: tones over noise, different on each side. */
export function tonesAndNoise(rateHz: number, seconds: number, channels: number): Float32Array[] {
  return Array.from({ length: channels }, (_, c) => {
    const noise = noiseSource(17 + c);
    return Float32Array.from({ length: rateHz * seconds }, (_unused, i) => {
      const t = i / rateHz;
      const tones =
        Math.sin(TAU * 220 * (c + 1) * t) +
        0.5 * Math.sin(TAU * 1_330 * t) +
        0.3 * Math.sin(TAU * 6_100 * t);
      return tones * 0.2 + noise() * 0.08;
    });
  });
}

export function sine(rateHz: number, hz: number, seconds: number): Float32Array {
  return Float32Array.from(
    { length: rateHz * seconds },
    (_, i) => 0.5 * Math.sin((TAU * hz * i) / rateHz),
  );
}
