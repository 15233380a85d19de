import * as yup from 'yup';
import { cutOut } from '../../dsp/splice';
import { BijouError } from '../../errors';
import type { StepKind } from '../types';
import { checkSpan, firstTenth, spanFields, spanParams, spanText, type Span } from './span';

export interface CutParams extends Span {
  /** Length over which the ends are joined; 0 joins them as they are. */
  crossfadeFrames?: number | undefined;
}

/** Five milliseconds: long enough not to click, too short to be heard as a fade. */
export function crossfadeAt(rateHz: number): number {
  return Math.round(rateHz / 200);
}

export const cut: StepKind<CutParams> = {
  kind: 'cut',
  name: 'Cut out',
  purpose: 'length',
  hint: 'takes a stretch out and closes the gap with a short crossfade',
  fields: [...spanFields, { name: 'crossfadeFrames', label: 'Crossfade', type: 'length' }],
  defaults: (before) => ({
    ...firstTenth(before),
    crossfadeFrames: crossfadeAt(before.rateHz),
  }),
  params: yup.object({ ...spanParams, crossfadeFrames: yup.number().integer().min(0).max(65_536) }),
  describe: (span, before) => `cut out ${spanText(span, before)}`,
  shape(before, span) {
    checkSpan(span, before);
    const frames = before.frames - (span.endFrame - span.startFrame);
    if (frames > 0) return { ...before, frames };
    throw new BijouError(
      'bad-span',
      'That would cut out the whole sound.',
      'Leave some of it, or switch the step off.',
    );
  },
  place:
    (_, { startFrame, endFrame }) =>
    (frame) => {
      if (frame <= startFrame) return frame;
      return frame < endFrame ? null : frame - (endFrame - startFrame);
    },
  origin:
    (_, { startFrame, endFrame }) =>
    (frame) =>
      frame < startFrame ? frame : frame + (endFrame - startFrame),
  rereads: () => true,
  peakAtMost: (before) => before,
  apply: (source, { startFrame, endFrame, crossfadeFrames }) =>
    cutOut(source, startFrame, endFrame, crossfadeFrames),
};
