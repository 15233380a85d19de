import type { Stretch } from '@/core/marks';
import { wayBackFrames } from '@/core/dsp/loop';
import { BijouError } from '@/core/errors';
import { checkLoop } from '@/core/loop/limits';
import type { Step } from '@/core/recipe/types';
import { parseTime } from '@/core/time';
import type { Looked } from '../batch/tasks';
import type { ShowOptions } from './options';

/** The loop of a file that a call means. */
export interface MeantLoop extends Stretch {
  /** Nobody has said where it begins: it may begin later. */
  isOpen: boolean;
  /** What has to be done first for it to run forward; frames are behind that. */
  steps: Step[];
  frames: number;
}

/**
 * The loop that was typed, else the file's own, else the whole sound.
 * @throws bad-span, not-allowed for one that runs back and forth and is not to be unrolled
 */
export function meantLoop(
  { shape, loop }: Looked,
  { start, end }: ShowOptions,
  isUnrolled: boolean,
): MeantLoop {
  const { frames, rateHz } = shape;
  const at = (text: string) => parseTime(text, rateHz).frame;
  if (start === undefined && end === undefined && loop?.isBackAndForth) {
    if (!isUnrolled) throw runsBack();
    const { startFrame, endFrame } = loop;
    checkLoop(loop, shape);
    const added = wayBackFrames(loop);
    return {
      startFrame,
      endFrame: endFrame + added,
      isOpen: false,
      steps: [{ kind: 'unroll', on: true, params: { startFrame, endFrame } }],
      frames: frames + added,
    };
  }
  const meant = {
    startFrame: start === undefined ? (loop?.startFrame ?? 0) : at(start),
    endFrame: end === undefined ? (loop?.endFrame ?? frames) : at(end),
  };
  checkLoop(meant, shape);
  return { ...meant, isOpen: start === undefined && !loop, steps: [], frames };
}

function runsBack(): BijouError {
  return new BijouError(
    'not-allowed',
    'Its loop runs back and forth.',
    'Give --unroll to make it run forward, or --start and --end.',
  );
}
