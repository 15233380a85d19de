import { relabel as relabelSound } from '../../dsp/speed';
import { kilohertz } from '../../tradeNames';
import type { StepKind } from '../types';
import { LOWEST_HZ } from '../../pcm/rates';
import { rateParams, type RateParams } from './rate';

export const relabel: StepKind<RateParams> = {
  kind: 'relabel',
  name: 'Relabel the rate',
  purpose: 'repair',
  hint: 'it plays too fast or too slow: says which rate the frames really have',
  params: rateParams,
  fields: [{ name: 'rateHz', label: 'True rate', type: 'rate' }],
  defaults: ({ rateHz }) => ({ rateHz: Math.max(LOWEST_HZ, Math.round(rateHz / 2)) }),
  describe: ({ rateHz }, before) =>
    `correct the rate from ${kilohertz(before.rateHz)} to ${kilohertz(rateHz)}: it plays ` +
    `${(before.rateHz / rateHz).toFixed(2)} × as long`,
  shape: (before, { rateHz }) => ({ ...before, rateHz }),
  peakAtMost: (before) => before,
  apply: (source, { rateHz }) => relabelSound(source, rateHz),
};
