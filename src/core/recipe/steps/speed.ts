import * as yup from 'yup';
import { changeSpeed, spedFrames } from '../../dsp/speed';
import type { StepKind } from '../types';

export interface SpeedParams {
  /** Above 1 is faster and higher. */
  factor: number;
}

export const speed: StepKind<SpeedParams> = {
  kind: 'speed',
  name: 'Speed',
  params: yup.object({ factor: yup.number().min(0.1).max(10).required() }),
  describe: ({ factor }) => `play ${factor} × as fast, the pitch along with it`,
  shape: (before, { factor }) => ({ ...before, frames: spedFrames(before.frames, factor) }),
  place:
    (_, { factor }) =>
    (frame) =>
      frame / factor,
  apply: (pcm, { factor }) => changeSpeed(pcm, factor),
};
