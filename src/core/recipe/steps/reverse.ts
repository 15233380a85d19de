import * as yup from 'yup';
import { reverse as reversePcm } from '../../dsp/reverse';
import type { StepKind } from '../types';

export const reverse: StepKind<object> = {
  kind: 'reverse',
  name: 'Reverse',
  params: yup.object({}),
  describe: () => 'play it backwards',
  shape: (before) => before,
  place: (before) => (frame) => before.frames - frame,
  apply: (pcm, _, { tools }) => reversePcm(pcm, () => tools.scratch()),
};
