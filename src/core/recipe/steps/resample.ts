import * as yup from 'yup';
import { resample as resamplePcm, resampledFrames } from '../../dsp/resample';
import type { StepKind } from '../types';

export interface ResampleParams {
  rateHz: number;
}

export const resample: StepKind<ResampleParams> = {
  kind: 'resample',
  name: 'Resample',
  params: yup.object({ rateHz: yup.number().integer().min(1_000).max(768_000).required() }),
  describe: ({ rateHz }, before) => `resample from ${before.rateHz} to ${rateHz} Hz`,
  shape: (before, { rateHz }) => ({
    ...before,
    rateHz,
    frames: resampledFrames(before.frames, before.rateHz, rateHz),
  }),
  place:
    (before, { rateHz }) =>
    (frame) =>
      (frame * rateHz) / before.rateHz,
  apply: (pcm, { rateHz }) => resamplePcm(pcm, rateHz),
};
