import * as yup from 'yup';
import { measureOffsets, removeOffset } from '../../dsp/level';
import type { StepKind } from '../types';

export const offset: StepKind<object, number[]> = {
  kind: 'offset',
  name: 'DC removal',
  purpose: 'repair',
  hint: 'centres a recording whose zero line is off',
  params: yup.object({}),
  fields: [],
  defaults: () => ({}),
  describe: () => 'take the DC offset out of each channel',
  shape: (before) => before,
  measure: measureOffsets,
  apply: (source, _, { figure }) => removeOffset(source, figure),
};
