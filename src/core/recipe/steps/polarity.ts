import * as yup from 'yup';
import { invertPolarity } from '../../dsp/level';
import type { StepKind } from '../types';

export const polarity: StepKind<object> = {
  kind: 'polarity',
  name: 'Polarity',
  params: yup.object({}),
  describe: () => 'turn the polarity round',
  shape: (before) => before,
  apply: (pcm) => invertPolarity(pcm),
};
