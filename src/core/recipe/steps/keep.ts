import * as yup from 'yup';
import { noParts } from '../../marks';
import { trim } from '../../dsp/splice';
import type { StepKind } from '../types';
import { checkSpan, spanFields, spanParams, spanText, type Span } from './span';

interface KeepParams extends Span {
  /** What is kept is a piece that does not loop by itself: nobody misses the marks. */
  withoutLoop?: boolean | undefined;
}

export const keep: StepKind<KeepParams> = {
  kind: 'keep',
  name: 'Keep span',
  purpose: 'length',
  hint: 'trims: leaves only one stretch of the sound',
  fields: spanFields,
  defaults: ({ frames }) => ({ startFrame: 0, endFrame: frames }),
  params: yup.object({ ...spanParams, withoutLoop: yup.boolean() }),
  describe: (span, before) => `keep ${spanText(span, before)}`,
  shape(before, span) {
    checkSpan(span, before);
    return { ...before, frames: span.endFrame - span.startFrame };
  },
  place:
    (_, { startFrame, endFrame }) =>
    (frame) =>
      frame < startFrame || frame > endFrame ? null : frame - startFrame,
  origin:
    (_, { startFrame }) =>
    (frame) =>
      frame + startFrame,
  marks: (moved, { withoutLoop }) => (withoutLoop ? { ...moved, loop: null, ...noParts } : moved),
  peakAtMost: (before) => before,
  apply: (source, { startFrame, endFrame }) => trim(source, startFrame, endFrame),
};
