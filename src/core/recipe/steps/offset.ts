import * as yup from 'yup';
import { measureOffsets, removeOffset } from '../../dsp/level';
import type { StepKind } from '../types';

export const offset: StepKind<object, number[]> = {
  kind: 'offset',
  name: 'Remove DC offset',
  params: yup.object({}),
  describe: () => 'take the DC offset out of each channel',
  shape: (before) => before,
  measure: measureOffsets,
  apply: (pcm, _, { figure }) => removeOffset(pcm, figure),
};
