import * as yup from 'yup';
import { reverse as reverseSound } from '../../dsp/reverse';
import type { StepKind } from '../types';

export const reverse: StepKind<object> = {
  kind: 'reverse',
  name: 'Reverse',
  purpose: 'time',
  hint: 'plays the sound backwards',
  params: yup.object({}),
  fields: [],
  defaults: () => ({}),
  describe: () => 'play it backwards',
  shape: (before) => before,
  place: (before) => (frame) => before.frames - frame,
  origin: (before) => (frame) => before.frames - frame,
  rereads: () => true,
  peakAtMost: (before) => before,
  apply: (source) => reverseSound(source),
};
