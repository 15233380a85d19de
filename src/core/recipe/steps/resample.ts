import { resampled, resampledFrames, resampledPlace } from '../../dsp/resample';
import { kilohertz } from '../../tradeNames';
import type { StepKind } from '../types';
import { rateParams, type RateParams } from './rate';

export const resample: StepKind<RateParams> = {
  kind: 'resample',
  name: 'Resample',
  purpose: 'time',
  hint: 'converts to another sample rate; pitch and length stay',
  params: rateParams,
  fields: [{ name: 'rateHz', label: 'New rate', type: 'rate' }],
  defaults: ({ rateHz }) => ({ rateHz: rateHz === 44_100 ? 48_000 : 44_100 }),
  describe: ({ rateHz }, before) =>
    `resample from ${kilohertz(before.rateHz)} to ${kilohertz(rateHz)}`,
  shape: (before, { rateHz }) => ({
    ...before,
    rateHz,
    frames: resampledFrames(before.frames, before.rateHz, rateHz),
  }),
  place:
    (before, { rateHz }) =>
    (frame) =>
      resampledPlace(frame, before.rateHz, rateHz),
  origin:
    (before, { rateHz }) =>
    (frame) =>
      resampledPlace(frame, rateHz, before.rateHz),
  rereads: (_, loop) => loop !== null,
  apply: (source, { rateHz }) => resampled(source, rateHz),
};
