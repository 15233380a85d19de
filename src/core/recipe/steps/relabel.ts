import * as yup from 'yup';
import { relabel as relabelPcm } from '../../dsp/speed';
import type { StepKind } from '../types';
import type { ResampleParams } from './resample';

export const relabel: StepKind<ResampleParams> = {
  kind: 'relabel',
  name: 'Relabel the rate',
  params: yup.object({ rateHz: yup.number().integer().min(1_000).max(768_000).required() }),
  describe: ({ rateHz }, before) =>
    `correct the rate from ${before.rateHz} to ${rateHz} Hz: it plays ` +
    `${(before.rateHz / rateHz).toFixed(2)} × as long`,
  shape: (before, { rateHz }) => ({ ...before, rateHz }),
  apply: (pcm, { rateHz }) => relabelPcm(pcm, rateHz),
};
