import { byTime, STEADY_SINE, TAU, type ReferenceKind } from './types';

const FROM_HZ = 30;

/** As long in every octave. */
export const sweep: ReferenceKind = {
  id: 'sweep',
  name: 'Sweep',
  says: 'Passes all pitches: shows where the band ends, and what is mirrored there.',
  make(frames, rateHz) {
    const seconds = frames / rateHz;
    const octaves = Math.log((0.45 * rateHz) / FROM_HZ);
    return [
      byTime(frames, rateHz, (t) => {
        const turns = ((FROM_HZ * seconds) / octaves) * (Math.exp((octaves * t) / seconds) - 1);
        return STEADY_SINE * Math.sin(TAU * turns);
      }),
    ];
  },
};
