import * as yup from 'yup';
import { unrolled, wayBackFrames } from '../../dsp/loop';
import { checkLoop } from '../../loop/limits';
import type { StepKind } from '../types';
import { spanFields, spanParams, spanText, type Span } from './span';

export const unroll: StepKind<Span> = {
  kind: 'unroll',
  name: 'Unroll back and forth',
  purpose: 'loop',
  hint: 'puts the way back behind what runs back and forth, so that it runs forward in every player',
  params: yup.object(spanParams),
  fields: spanFields,
  defaults: ({ frames }) => ({ startFrame: 0, endFrame: frames }),
  describe: (span, before) => `unroll ${spanText(span, before)}, which runs back and forth`,
  shape(before, span) {
    checkLoop(span, before);
    return { ...before, frames: before.frames + wayBackFrames(span) };
  },
  place: (_, span) => (frame) => (frame < span.endFrame ? frame : frame + wayBackFrames(span)),
  origin: (_, span) => (frame) => {
    const { endFrame } = span;
    const added = wayBackFrames(span);
    if (frame < endFrame) return frame;
    return frame < endFrame + added ? 2 * endFrame - 2 - frame : frame - added;
  },
  marks: (moved, span) => ({
    ...moved,
    loop: { startFrame: span.startFrame, endFrame: span.endFrame + wayBackFrames(span) },
  }),
  peakAtMost: (before) => before,
  rereads: () => true,
  apply: (source, span) => unrolled(source, span),
};
