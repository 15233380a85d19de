import * as yup from 'yup';
import { insertSilence } from '../../dsp/splice';
import { BijouError } from '../../errors';
import { formatTime } from '../../time';
import type { StepKind } from '../types';
import { MOST_FRAMES } from './silence';

export interface PadParams {
  headFrames: number;
  tailFrames: number;
}

const padding = () => yup.number().integer().min(0).max(MOST_FRAMES).required();

export const pad: StepKind<PadParams> = {
  kind: 'pad',
  name: 'Pad',
  purpose: 'length',
  hint: 'puts silence in front of the sound and behind it',
  params: yup.object({ headFrames: padding(), tailFrames: padding() }),
  fields: [
    { name: 'headFrames', label: 'In front', type: 'length' },
    { name: 'tailFrames', label: 'Behind', type: 'length' },
  ],
  defaults: ({ rateHz }) => ({ headFrames: 0, tailFrames: Math.round(rateHz / 2) }),
  describe: ({ headFrames, tailFrames }, { rateHz }) =>
    `put ${formatTime(headFrames / rateHz)} of silence in front and ` +
    `${formatTime(tailFrames / rateHz)} behind`,
  shape(before, { headFrames, tailFrames }) {
    if (headFrames + tailFrames > 0) {
      return { ...before, frames: before.frames + headFrames + tailFrames };
    }
    throw new BijouError(
      'bad-span',
      'Padding of no length changes nothing.',
      'Give it a length in front or behind, or take the step out.',
    );
  },
  place:
    (_, { headFrames }) =>
    (frame) =>
      frame + headFrames,
  origin:
    (before, { headFrames }) =>
    (frame) =>
      Math.max(0, Math.min(before.frames, frame - headFrames)),
  peakAtMost: (before) => before,
  apply(source, { headFrames, tailFrames }) {
    return insertSilence(insertSilence(source, source.frames, tailFrames), 0, headFrames);
  },
};
