import * as yup from 'yup';
import { trim } from '../../dsp/splice';
import type { StepKind } from '../types';
import { checkSpan, spanFields, spanParams, spanText, type Span } from './span';

export const keep: StepKind<Span> = {
  kind: 'keep',
  name: 'Keep span',
  purpose: 'length',
  hint: 'trims: leaves only one stretch of the sound',
  fields: spanFields,
  defaults: ({ frames }) => ({ startFrame: 0, endFrame: frames }),
  params: yup.object(spanParams),
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
  peakAtMost: (before) => before,
  apply: (source, { startFrame, endFrame }) => trim(source, startFrame, endFrame),
};
