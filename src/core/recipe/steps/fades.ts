import * as yup from 'yup';
import {
  fadeIn as fadeInSound,
  fadeInGain,
  fadeOut as fadeOutSound,
  fadeOutGain,
  fadeShapes,
  type FadeShape,
} from '../../dsp/fade';
import { BijouError } from '../../errors';
import { formatTime } from '../../time';
import type { Shape, StepField, StepKind } from '../types';
import { oneOfKeys, optionsOf } from './choice';

export interface FadeParams {
  frames: number;
  shape: FadeShape;
}

const params = yup.object({
  frames: yup.number().integer().min(1).required(),
  shape: oneOfKeys(fadeShapes).required(),
});

const fields: readonly StepField[] = [
  { name: 'frames', label: 'Length', type: 'length' },
  {
    name: 'shape',
    label: 'Curve',
    type: 'choice',
    options: optionsOf(fadeShapes, ({ name }) => name),
  },
];

/** Ten milliseconds: takes a click away and nothing else. */
function short({ rateHz, frames }: Shape): FadeParams {
  return { frames: Math.max(1, Math.min(frames, Math.round(rateHz / 100))), shape: 'linear' };
}

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
  purpose: 'level',
  hint: 'lets the beginning rise from silence',
  params,
  fields,
  defaults: short,
  describe: (fade, before) => `fade in ${lengthAndShape(fade, before)}`,
  shape: checked,
  envelope:
    (_, { frames, shape }) =>
    (frame) =>
      fadeInGain(Math.max(0, frame), frames, shape),
  peakAtMost: (before) => before,
  apply: (source, { frames, shape }) => fadeInSound(source, frames, shape),
};

export const fadeOut: StepKind<FadeParams> = {
  kind: 'fade-out',
  name: 'Fade out',
  purpose: 'level',
  hint: 'lets the end fall to silence, reached on the last frame',
  params,
  fields,
  defaults: short,
  describe: (fade, before) => `fade out ${lengthAndShape(fade, before)}`,
  shape: checked,
  envelope:
    (before, { frames, shape }) =>
    (frame) =>
      fadeOutGain(Math.min(before.frames - 1, frame), before.frames, frames, shape),
  peakAtMost: (before) => before,
  apply: (source, { frames, shape }) => fadeOutSound(source, frames, shape),
};
