import * as yup from 'yup';
import { trim } from '../../dsp/trim';
import { BijouError } from '../../errors';
import { formatTime } from '../../time';
import type { StepKind } from '../types';

/** Frames from `startFrame` up to, not including, `endFrame`. */
export interface KeepParams {
  startFrame: number;
  endFrame: number;
}

const frame = () => yup.number().integer().min(0).required();

export const keep: StepKind<KeepParams> = {
  kind: 'keep',
  name: 'Keep span',
  params: yup.object({ startFrame: frame(), endFrame: frame() }),
  describe: ({ startFrame, endFrame }, { rateHz }) =>
    `keep ${formatTime(startFrame / rateHz)} to ${formatTime(endFrame / rateHz)}`,
  shape(before, { startFrame, endFrame }) {
    if (startFrame === endFrame) {
      throw new BijouError(
        'bad-span',
        'The span has no length: it ends where it begins.',
        'Set an end that lies after the start.',
      );
    }
    if (startFrame > endFrame) {
      throw new BijouError(
        'bad-span',
        'The span ends before it begins.',
        'Exchange start and end.',
      );
    }
    if (endFrame > before.frames) {
      throw new BijouError(
        'bad-span',
        `The span lies outside the sound: it ends at frame ${endFrame}, the sound at ${before.frames} ` +
          `(${formatTime(before.frames / before.rateHz)}).`,
        'Choose a start and an end inside the sound.',
      );
    }
    return { ...before, frames: endFrame - startFrame };
  },
  apply: (pcm, { startFrame, endFrame }) => trim(pcm, startFrame, endFrame),
};
