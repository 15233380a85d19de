import * as yup from 'yup';
import { changeSpeed, sourcePlace, spedFrames, spedPlace } from '../../dsp/speed';
import type { StepKind } from '../types';

export interface SpeedParams {
  /** Above 1 is faster and higher. */
  factor: number;
}

export const speed: StepKind<SpeedParams> = {
  kind: 'speed',
  name: 'Speed',
  purpose: 'time',
  hint: 'faster and higher, or slower and lower',
  fields: [{ name: 'factor', label: 'Factor', type: 'number', unit: '×', min: 0.1, max: 10 }],
  defaults: () => ({ factor: 1.1 }),
  params: yup.object({ factor: yup.number().min(0.1).max(10).required() }),
  describe: ({ factor }) => `play ${factor} × as fast, the pitch along with it`,
  shape: (before, { factor }) => ({ ...before, frames: spedFrames(before.frames, factor) }),
  place:
    (_, { factor }) =>
    (frame) =>
      spedPlace(frame, factor),
  origin:
    (_, { factor }) =>
    (frame) =>
      sourcePlace(frame, factor),
  rereads: (_, loop) => loop !== null,
  apply: (source, { factor }) => changeSpeed(source, factor),
};
