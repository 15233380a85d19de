import FFT from 'fft.js';
import { hann } from '../hann';
import { deviation, mean, quantile } from '../statistics';
import {
  energyOf,
  HOP_SECONDS,
  OCTAVES_HZ,
  stretchesOf,
  voiceFrames,
  type VoiceFrame,
} from './frames';

/** What tells at which speed a voice speaks, one number a trait; the names are for those who read the model. */
export type VoiceTraits = number[];

/** The traits in their order. Levels are in dB, pitches and rates in octaves. */
export const traitNames = [
  'pitch',
  'range of pitch',
  'rate of syllables',
  'share with a pitch',
  'share without',
  ...OCTAVES_HZ.map((hz) => `level from ${hz} Hz`),
  ...OCTAVES_HZ.map((hz) => `change from ${hz} Hz`),
];

/** Stretches with a pitch that there must be. */
const LEAST_PITCHED = 10;
/** What is this much below the loud parts (as power) is not looked at. */
const LOUD_SHARE = 0.01;
const PITCHED = 0.75;
const UNPITCHED = 0.5;
const LOWEST_DB = -45;
const MOST_CHANGE_DB = 15;
const SYLLABLES = { fromHz: 1, toHz: 25, fftSize: 1_024 };

/** The traits of a sound of one channel; null where too little of it has a pitch, as speech has. */
export function voiceTraits(sound: Float32Array, rateHz: number): VoiceTraits | null {
  const stretches = stretchesOf(sound, rateHz);
  const energies = stretches.map(energyOf);
  const loudest = quantile(energies, 0.95);
  const loud = voiceFrames(
    stretches.filter((_, i) => energies[i]! > LOUD_SHARE * loudest),
    rateHz,
  );
  const pitched = loud.filter(({ periodicity }) => periodicity > PITCHED);
  if (pitched.length < LEAST_PITCHED) return null;
  const pitches = pitched.map(({ pitchHz }) => Math.log2(pitchHz));
  const unpitched = loud.filter(({ periodicity }) => periodicity < UNPITCHED);
  const octaves = octaveLevels(loud, pitched);
  return [
    quantile(pitches, 0.5),
    quantile(pitches, 0.9) - quantile(pitches, 0.1),
    syllableRate(energies),
    pitched.length / loud.length,
    unpitched.length / loud.length,
    ...octaves.map((levels) => Math.max(LOWEST_DB, mean(levels))),
    ...octaves.map((levels) => Math.min(MOST_CHANGE_DB, deviation(levels))),
  ];
}

/** By octave: its level in each pitched stretch, in dB of all of that stretch. */
function octaveLevels(loud: readonly VoiceFrame[], pitched: readonly VoiceFrame[]): number[][] {
  const floor = 1e-9 * mean(loud.flatMap(({ octavePowers }) => octavePowers)) + 1e-20;
  return OCTAVES_HZ.map((_, octave) =>
    pitched.map(
      ({ octavePowers, power }) =>
        10 * Math.log10((octavePowers[octave]! + floor) / (power + 1e-20)),
    ),
  );
}

/** How fast the level goes up and down: the middle of its spectrum, in octaves above 1 Hz. */
function syllableRate(energies: readonly number[]): number {
  const { fromHz, toHz, fftSize } = SYLLABLES;
  const levels = energies.map(Math.sqrt);
  const middle = mean(levels);
  const input = new Float64Array(fftSize);
  const window = hann(Math.min(levels.length, fftSize));
  window.forEach((weight, i) => (input[i] = (levels[i]! - middle) * weight));
  const fft = new FFT(fftSize);
  const output: number[] = fft.createComplexArray();
  fft.realTransform(output, input);
  let weighed = 0;
  let all = 0;
  for (let i = 0; i <= fftSize / 2; i++) {
    const hz = i / (fftSize * HOP_SECONDS);
    if (hz < fromHz || hz > toHz) continue;
    const power = output[2 * i]! ** 2 + output[2 * i + 1]! ** 2;
    weighed += Math.log2(hz) * power;
    all += power;
  }
  return all > 0 ? weighed / all : 0;
}
