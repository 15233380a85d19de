import { noiseSource } from '@/core/dsp/noise';
import { filter, render, swell, TAU } from '../synth';

/** A number between two others. */
type Draw = (least: number, most: number) => number;

/** One kind of sound of the island, made anew at every take. */
export interface Voice {
  folder: string;
  name: string;
  /** One channel of so many seconds. */
  make(seconds: number, rateHz: number, draw: Draw, seed: number): Float32Array;
}

/** Noise through a band that wanders, under one swell. */
function air(lowHz: number, highHz: number, attack: number): Voice['make'] {
  return (seconds, rateHz, draw, seed) => {
    const noise = noiseSource(seed);
    const band = filter(rateHz, draw(0.8, 3), 'band');
    const [base, turns] = [draw(lowHz, highHz), draw(0.5, 3)];
    return render(seconds, rateHz, (t) => {
      const hz = base * (1 + 0.4 * Math.sin(turns * t));
      return band(noise(), hz) * swell(t, attack * seconds, seconds, 0.4 * seconds);
    });
  };
}

/** Partials that die away, the higher the sooner. */
function struck(lowHz: number, highHz: number, partials: readonly number[]): Voice['make'] {
  return (seconds, rateHz, draw) => {
    const [hz, fall] = [draw(lowHz, highHz), draw(3, 6) / seconds];
    return render(seconds, rateHz, (t) => {
      const sum = partials.reduce(
        (all, ratio, i) => all + Math.sin(TAU * hz * ratio * t) * Math.exp(-fall * (i + 1) * t),
        0,
      );
      return sum * swell(t, 0.002, seconds, 0.02);
    });
  };
}

/** A dull blow with grit behind it. */
const thump: Voice['make'] = (seconds, rateHz, draw, seed) => {
  const noise = noiseSource(seed);
  const [hz, grit] = [draw(50, 110), draw(0.1, 0.5)];
  return render(seconds, rateHz, (t) => {
    const body = Math.sin(TAU * hz * t * (1 - 0.2 * t)) * Math.exp((-5 * t) / seconds);
    return (body + grit * noise() * Math.exp(-40 * t)) * swell(t, 0.003, seconds, 0.02);
  });
};

/** A voice that bends down, rough at the edges. */
const cry: Voice['make'] = (seconds, rateHz, draw) => {
  const [top, bend, rough] = [draw(900, 1_900), draw(0.2, 0.6), draw(40, 90)];
  let phase = 0;
  return render(seconds, rateHz, (t) => {
    phase += (TAU * top * (1 - (bend * t) / seconds)) / rateHz;
    const body = Math.sin(phase) + 0.5 * Math.sin(2 * phase) + 0.3 * Math.sin(3 * phase);
    return body * (1 + 0.4 * Math.sin(TAU * rough * t)) * swell(t, 0.05, seconds, 0.3 * seconds);
  });
};

/** What sounds on Marrow Skerry. */
export const voices: readonly Voice[] = [
  { folder: 'weather/gusts', name: 'gust', make: air(300, 1_400, 0.3) },
  { folder: 'weather/rain', name: 'squall', make: air(2_500, 6_000, 0.1) },
  { folder: 'sea/waves', name: 'wave', make: air(180, 700, 0.5) },
  { folder: 'sea/buoys', name: 'bell', make: struck(220, 700, [1, 2.01, 2.74, 4.1, 5.43]) },
  { folder: 'lamp room/gears', name: 'tooth', make: struck(1_400, 3_800, [1, 1.47, 2.09]) },
  { folder: 'lamp room/glass', name: 'pane', make: struck(2_300, 5_000, [1, 2.32]) },
  { folder: 'tower/stairs', name: 'step', make: thump },
  { folder: 'creatures/gulls', name: 'cry', make: cry },
];
