import { noiseSource } from '../../dsp/noise';
import type { ReferenceKind } from './types';

export const voice: ReferenceKind = {
  id: 'voice',
  name: 'Synthetic voice',
  says: 'Pulses through the resonances of vowels, with hiss between them: built like speech.',
  make: (frames, rateHz) => [madeVoice(rateHz, frames, 120)],
};

/** Resonances of a few vowels of a grown-up, in Hz (means of many speakers, rounded). */
const VOWELS = [
  [700, 1_200, 2_500, 3_500],
  [300, 2_200, 2_900, 3_600],
  [350, 800, 2_400, 3_400],
  [500, 1_700, 2_500, 3_500],
];

/**
 * Something like speech, by source and filter: pulses of a falling pitch through the resonances of one vowel after the
 * other, four to a second, with hiss between them.
 * @param pitchHz Where each phrase begins; it ends a quarter lower.
 * @param size Of the speaker: 1 is a man; smaller ones have higher resonances.
 */
export function madeVoice(rateHz: number, frames: number, pitchHz: number, size = 1): Float32Array {
  const next = noiseSource(5);
  const hiss = new Float32Array(frames).map(next);
  const pulses = pulseTrain(rateHz, frames, pitchHz);
  const out = new Float32Array(frames);
  const syllable = Math.round(rateHz / 4);
  for (let at = 0, n = 0; at < frames; at += syllable, n++) {
    const formants = VOWELS[(n * 7 + (n >> 2)) % 4]!.map((hz) => hz / size);
    let sound: Float32Array = pulses
      .slice(at, at + syllable)
      .map((x, i) => x + 0.002 * hiss[at + i]!);
    for (const hz of formants) sound = resonated(sound, hz, 60 + hz / 20, rateHz);
    const spit = resonated(hiss.slice(at, at + syllable), 5_500 / size, 2_000, rateHz);
    const peak = sound.reduce((most, x) => Math.max(most, Math.abs(x)), 1e-9);
    sound.forEach((x, i) => {
      const place = i / syllable;
      const vowel = place < 0.7 ? Math.sin((Math.PI * place) / 0.7) : 0;
      const consonant = place > 0.75 && place < 0.95 && n % 2 === 0 ? 0.004 : 0;
      out[at + i] = (0.4 * vowel * x) / peak + consonant * spit[i]!;
    });
  }
  return out;
}

/** One sample for each turn of the vocal cords; a phrase of two seconds falls by a quarter. */
function pulseTrain(rateHz: number, frames: number, pitchHz: number): Float32Array {
  const pulses = new Float32Array(frames);
  let phase = 0;
  for (let i = 0; i < frames; i++) {
    const inPhrase = ((i / rateHz) % 2) / 2;
    phase += (pitchHz * (1 - inPhrase / 4)) / rateHz;
    if (phase < 1) continue;
    phase -= 1;
    pulses[i] = 1;
  }
  return pulses;
}

/** A resonance of two poles, as loud at 0 Hz before and after. */
function resonated(x: Float32Array, hz: number, widthHz: number, rateHz: number): Float32Array {
  if (hz > rateHz * 0.45) return x;
  const r = Math.exp((-Math.PI * widthHz) / rateHz);
  const a = 2 * r * Math.cos((2 * Math.PI * hz) / rateHz);
  const b = -r * r;
  let [y1, y2] = [0, 0];
  return x.map((value) => {
    const y = (1 - a - b) * value + a * y1 + b * y2;
    [y2, y1] = [y1, y];
    return y;
  });
}
