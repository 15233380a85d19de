import * as yup from 'yup';
import { repeated } from '../../dsp/loop';
import { BijouError } from '../../errors';
import type { StepKind } from '../types';
import { MOST_FRAMES } from './silence';
import { checkSpan, firstTenth, spanFields, spanParams, spanText, type Span } from './span';

interface RepeatParams extends Span {
  /** How often it is there in all. */
  times: number;
}

const MOST_TIMES = 1_000;

export const repeat: StepKind<RepeatParams> = {
  kind: 'repeat',
  name: 'Repeat',
  purpose: 'loop',
  hint: 'plays a stretch several times, one behind the other, to the frame',
  params: yup.object({
    ...spanParams,
    times: yup.number().integer().min(1).max(MOST_TIMES).required(),
  }),
  fields: [
    ...spanFields,
    { name: 'times', label: 'In all', type: 'number', unit: 'times', min: 1, max: MOST_TIMES },
  ],
  defaults: (before) => ({ ...firstTenth(before), times: 2 }),
  describe: (params, before) => `play ${spanText(params, before)} ${params.times} times`,
  shape(before, params) {
    checkSpan(params, before);
    const frames = before.frames + addedFrames(params);
    if (frames <= MOST_FRAMES) return { ...before, frames };
    throw new BijouError(
      'bad-span',
      'Repeated so often it would be far too long.',
      'Repeat it fewer times, or a shorter stretch.',
    );
  },
  place: (_, params) => (frame) => (frame < params.endFrame ? frame : frame + addedFrames(params)),
  origin: (_, params) => (frame) => {
    const { startFrame, endFrame } = params;
    const added = addedFrames(params);
    if (frame < endFrame) return frame;
    if (frame >= endFrame + added) return frame - added;
    return startFrame + ((frame - endFrame) % (endFrame - startFrame));
  },
  peakAtMost: (before) => before,
  rereads: ({ times }) => times > 1,
  apply: (source, params) => repeated(source, params, params.times),
};

function addedFrames({ startFrame, endFrame, times }: RepeatParams): number {
  return (times - 1) * (endFrame - startFrame);
}
