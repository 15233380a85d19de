import * as yup from 'yup';
import { gain as applyGain } from '../../dsp/level';
import { signedDb } from '../../tradeNames';
import type { StepKind } from '../types';

export interface GainParams {
  gainDb: number;
}

export const gain: StepKind<GainParams> = {
  kind: 'gain',
  name: 'Gain',
  purpose: 'level',
  hint: 'makes everything louder or quieter by so many decibels',
  fields: [{ name: 'gainDb', label: 'Change', type: 'number', unit: 'dB', min: -120, max: 60 }],
  defaults: () => ({ gainDb: -3 }),
  params: yup.object({ gainDb: yup.number().min(-120).max(60).required() }),
  describe: ({ gainDb }) => `change the level by ${signedDb(gainDb)}`,
  shape: (before) => before,
  peakAtMost: (before, { gainDb }) => before + gainDb,
  apply: (source, { gainDb }) => applyGain(source, gainDb),
};
