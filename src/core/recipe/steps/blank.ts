import * as yup from 'yup';
import { blank as blankSpan } from '../../dsp/splice';
import type { StepKind } from '../types';
import { checkSpan, spanParams, spanText, type Span } from './span';

export const blank: StepKind<Span> = {
  kind: 'blank',
  name: 'Blank',
  params: yup.object(spanParams),
  describe: (span, before) => `make ${spanText(span, before)} silent`,
  shape(before, span) {
    checkSpan(span, before);
    return before;
  },
  apply: (pcm, { startFrame, endFrame }) => blankSpan(pcm, startFrame, endFrame),
};
