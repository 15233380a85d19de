import * as yup from 'yup';
import { trim } from '../../dsp/trim';
import type { StepKind } from '../types';
import { checkSpan, spanParams, spanText, type Span } from './span';

export const keep: StepKind<Span> = {
  kind: 'keep',
  name: 'Keep span',
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
  apply: (pcm, { startFrame, endFrame }) => trim(pcm, startFrame, endFrame),
};
