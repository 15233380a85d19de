import * as yup from 'yup';
import { BijouError } from '../../errors';
import { formatTime } from '../../time';
import type { Shape, StepKind } from '../types';
import { checkSpan, frameNumber, spanFields, spanParams, spanText, type Span } from './span';
import { plural } from '../../words';

interface LoopParams extends Span {
  /** Length of what is played once, right in front of the loop; 0 for none. */
  introFrames: number;
  /** Length of what still rings, right behind the loop; 0 for none. */
  tailFrames: number;
}

export const loop: StepKind<LoopParams> = {
  kind: 'loop',
  name: 'Mark a loop',
  purpose: 'loop',
  hint: 'says what repeats, with an intro in front of it and a tail behind; no sample changes',
  fields: [
    ...spanFields,
    { name: 'introFrames', label: 'Intro in front', type: 'length' },
    { name: 'tailFrames', label: 'Tail behind', type: 'length' },
  ],
  defaults: ({ frames }) => ({ startFrame: 0, endFrame: frames, introFrames: 0, tailFrames: 0 }),
  params: yup.object({ ...spanParams, introFrames: frameNumber(), tailFrames: frameNumber() }),
  describe(params, before) {
    const { startFrame, endFrame, introFrames, tailFrames } = params;
    const time = (frames: number) => formatTime(frames / before.rateHz);
    return [
      `loop ${spanText(params, before)} (${plural(endFrame - startFrame, 'frame')})`,
      introFrames > 0 ? `intro of ${time(introFrames)}` : '',
      tailFrames > 0 ? `tail of ${time(tailFrames)}` : '',
    ]
      .filter(Boolean)
      .join(', ');
  },
  shape(before, params) {
    checkSpan(params, before);
    checkParts(params, before);
    return before;
  },
  marks: (moved, { startFrame, endFrame, introFrames, tailFrames }) => ({
    ...moved,
    loop: { startFrame, endFrame },
    intro: introFrames > 0 ? { startFrame: startFrame - introFrames, endFrame: startFrame } : null,
    tail: tailFrames > 0 ? { startFrame: endFrame, endFrame: endFrame + tailFrames } : null,
  }),
  peakAtMost: (before) => before,
  apply: (source) => source,
};

/** @throws bad-span where the parts around the loop reach beyond the sound. */
function checkParts(
  { startFrame, endFrame, introFrames, tailFrames }: LoopParams,
  { frames, rateHz }: Shape,
): void {
  const tooLong = (part: string, room: number, side: string) =>
    new BijouError(
      'bad-span',
      `The ${part} is longer than what lies ${side} the loop: ${plural(room, 'frame')} ` +
        `(${formatTime(room / rateHz)}).`,
      `Make the ${part} shorter, or move the loop.`,
    );
  if (introFrames > startFrame) throw tooLong('intro', startFrame, 'in front of');
  if (tailFrames > frames - endFrame) throw tooLong('tail', frames - endFrame, 'behind');
}
