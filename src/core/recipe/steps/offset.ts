import * as yup from 'yup';
import { measureOffsets, removeOffsets, type Offsets } from '../../dsp/offset';
import type { StepKind } from '../types';

export const offset: StepKind<object, Offsets> = {
  kind: 'offset',
  name: 'DC removal',
  purpose: 'repair',
  hint: 'centres a recording whose zero line is off; silence stays silent',
  params: yup.object({}),
  fields: [],
  defaults: () => ({}),
  describe: () => 'take the DC offset out of each channel',
  shape: (before) => before,
  measure: measureOffsets,
  apply: (source, _, { figure }) => removeOffsets(source, figure),
};
