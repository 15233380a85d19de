import { byTime, STEADY_SINE, TAU, type ReferenceKind } from './types';

/** Tones are as loud as all else; two of them each 3 dB less. */
const tone = (hz: number) => (t: number) => Math.sin(TAU * hz * t);

/** Above this share of the rate nothing is made: it would fold, or be lost on the next way. */
const HIGHEST_SHARE = 0.45;

export const pureTone: ReferenceKind = {
  id: 'tone',
  name: 'Pure tone',
  says: 'Hides no noise and no distortion: 997 Hz, whose harmonics do not fall on each other.',
  make: (frames, rateHz) => {
    const hz = Math.min(997, Math.floor(rateHz * HIGHEST_SHARE));
    return [byTime(frames, rateHz, (t) => STEADY_SINE * tone(hz)(t))];
  },
};

export const twoTones: ReferenceKind = {
  id: 'two-tones',
  name: 'Two tones',
  says: 'Makes products of two tones (1 and 1.6 kHz) heard, where there are any.',
  make(frames, rateHz) {
    // At low rates both are lower, in the same relation.
    const hz = Math.min(1_000, Math.floor((rateHz * HIGHEST_SHARE) / 1.6));
    const [low, high] = [tone(hz), tone(1.6 * hz)];
    return [byTime(frames, rateHz, (t) => STEADY_SINE * Math.SQRT1_2 * (low(t) + high(t)))];
  },
};

/** A major chord with a few overtones each, struck anew every two seconds; a little apart in both channels. */
export const chord: ReferenceKind = {
  id: 'chord',
  name: 'Chord',
  says: 'Music at its plainest: many steady tones that die away.',
  make: (frames, rateHz) =>
    [0, 0.002].map((apart) =>
      byTime(frames, rateHz, (t) => {
        const since = (t + apart) % 2;
        const fades = Math.exp(-1.5 * since) * Math.min(1, since / 0.005);
        let sum = 0;
        for (const hz of [220, 277.18, 329.63, 440]) {
          for (let n = 1; n <= 6 && hz * n <= rateHz * HIGHEST_SHARE; n++) {
            sum += tone(hz * n)(t + apart) / n ** 1.5;
          }
        }
        return 0.07 * fades * sum;
      }),
    ),
};
