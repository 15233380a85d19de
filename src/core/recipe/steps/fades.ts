import * as yup from 'yup';
import {
  fadeIn as fadeInPcm,
  fadeOut as fadeOutPcm,
  fadeShapes,
  type FadeShape,
} from '../../dsp/fade';
import { BijouError } from '../../errors';
import { formatTime } from '../../time';
import type { Shape, StepKind } from '../types';

export interface FadeParams {
  frames: number;
  shape: FadeShape;
}

const params = yup.object({
  frames: yup.number().integer().min(1).required(),
  shape: yup
    .mixed<FadeShape>()
    .oneOf(Object.keys(fadeShapes) as FadeShape[])
    .required(),
});

function checked(before: Shape, { frames }: FadeParams): Shape {
  if (frames <= before.frames) return before;
  throw new BijouError(
    'bad-span',
    `The fade is longer (${formatTime(frames / before.rateHz)}) than the sound ` +
      `(${formatTime(before.frames / before.rateHz)}).`,
    'Make the fade shorter.',
  );
}

const lengthAndShape = ({ frames, shape }: FadeParams, { rateHz }: Shape) =>
  `over ${formatTime(frames / rateHz)}, ${fadeShapes[shape].name}`;

export const fadeIn: StepKind<FadeParams> = {
  kind: 'fade-in',
  name: 'Fade in',
  params,
  describe: (fade, before) => `fade in ${lengthAndShape(fade, before)}`,
  shape: checked,
  apply: (pcm, { frames, shape }) => fadeInPcm(pcm, frames, shape),
};

export const fadeOut: StepKind<FadeParams> = {
  kind: 'fade-out',
  name: 'Fade out',
  params,
  describe: (fade, before) => `fade out ${lengthAndShape(fade, before)}`,
  shape: checked,
  apply: (pcm, { frames, shape }, { before }) => fadeOutPcm(pcm, before.frames, frames, shape),
};
