import * as yup from 'yup';
import { insertSilence } from '../../dsp/splice';
import { BijouError } from '../../errors';
import { formatTime } from '../../time';
import type { StepKind } from '../types';
import { frameNumber } from './span';
import { count } from '../../tradeNames';

export interface SilenceParams {
  /** In front of which frame; the sound's length for its end. */
  atFrame: number;
  frames: number;
}

/** A day at 192 kHz. */
export const MOST_FRAMES = 192_000 * 86_400;

export const silence: StepKind<SilenceParams> = {
  kind: 'silence',
  name: 'Insert silence',
  purpose: 'length',
  hint: 'moves what follows a place further back',
  fields: [
    { name: 'atFrame', label: 'At', type: 'place' },
    { name: 'frames', label: 'Length', type: 'length' },
  ],
  defaults: ({ rateHz }) => ({ atFrame: 0, frames: Math.round(rateHz / 2) }),
  params: yup.object({
    atFrame: frameNumber(),
    frames: yup.number().integer().min(1).max(MOST_FRAMES).required(),
  }),
  describe: ({ atFrame, frames }, { rateHz }) =>
    `insert ${formatTime(frames / rateHz)} of silence at ${formatTime(atFrame / rateHz)}`,
  shape(before, { atFrame, frames }) {
    if (atFrame <= before.frames) return { ...before, frames: before.frames + frames };
    throw new BijouError(
      'bad-span',
      `Silence cannot be inserted at frame ${count(atFrame)}: the sound ends at ${count(before.frames)}.`,
      'Choose a place inside the sound or at its end.',
    );
  },
  place:
    (_, { atFrame, frames }) =>
    (frame) =>
      frame < atFrame ? frame : frame + frames,
  origin:
    (_, { atFrame, frames }) =>
    (frame) =>
      frame < atFrame ? frame : Math.max(atFrame, frame - frames),
  rereads: () => true,
  peakAtMost: (before) => before,
  apply: (source, { atFrame, frames }) => insertSilence(source, atFrame, frames),
};
