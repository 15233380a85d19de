import * as yup from 'yup';
import { blank as blankSpan } from '../../dsp/splice';
import type { StepKind } from '../types';
import { checkSpan, firstTenth, spanFields, spanParams, spanText, type Span } from './span';

export const blank: StepKind<Span> = {
  kind: 'blank',
  name: 'Blank',
  purpose: 'length',
  hint: 'makes a stretch silent and keeps the timing',
  params: yup.object(spanParams),
  fields: spanFields,
  defaults: firstTenth,
  describe: (span, before) => `make ${spanText(span, before)} silent`,
  shape(before, span) {
    checkSpan(span, before);
    return before;
  },
  envelope:
    (_, { startFrame, endFrame }) =>
    (frame) =>
      frame >= startFrame && frame < endFrame ? 0 : 1,
  peakAtMost: (before) => before,
  apply: (source, { startFrame, endFrame }) => blankSpan(source, startFrame, endFrame),
};
