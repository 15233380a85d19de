import * as yup from 'yup';
import { invertPolarity } from '../../dsp/level';
import type { StepKind } from '../types';

export const polarity: StepKind<object> = {
  kind: 'polarity',
  name: 'Polarity',
  purpose: 'channels',
  hint: 'turns every sample upside down',
  params: yup.object({}),
  fields: [],
  defaults: () => ({}),
  describe: () => 'turn the polarity round',
  shape: (before) => before,
  peakAtMost: (before) => before,
  apply: (source) => invertPolarity(source),
};
