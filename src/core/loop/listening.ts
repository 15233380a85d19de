import type { Loop, SoundMarks } from '../marks';
import type { Wish } from '../oneOff/fit';
import type { Shape, Step } from '../recipe/types';
import { partsOf } from './parts';

/** A loop as others are to hear it: so often, then it fades. Times in seconds. */
export interface ListeningWish {
  /** Passes, the last of which fades. */
  times: number;
  /** How long the last pass goes on before it begins to fade. */
  fadeAfterSeconds: number;
  fadeSeconds: number;
  silenceBeforeSeconds: number;
  silenceBehindSeconds: number;
}

export const usualListening: ListeningWish = {
  times: 3,
  fadeAfterSeconds: 15,
  fadeSeconds: 5,
  silenceBeforeSeconds: 0.015,
  silenceBehindSeconds: 2,
};

/** What is sent to others to be listened to, as far as its rate lets it. */
export const usualListeningForm: Wish = {
  writer: 'mp3',
  settings: { kbps: 320 },
  isUsual: true,
};

export const MOST_PASSES = 100;

const step = (kind: string, params: Record<string, unknown>): Step => ({ kind, on: true, params });

/** The pass of a listening copy in which both ends of a seam are heard: the first that another one follows. */
export function listenedLoop(
  marks: SoundMarks,
  { rateHz }: Shape,
  { times, silenceBeforeSeconds }: ListeningWish,
): Loop | null {
  const { intro, first } = partsOf(marks);
  if (times < 2) return null;
  const length = first.endFrame - first.startFrame;
  const played = first.startFrame - (intro ?? first).startFrame;
  // In front of the very first pass is something else; the last one fades.
  const startFrame = Math.round(silenceBeforeSeconds * rateHz) + played + (times > 2 ? length : 0);
  return { startFrame, endFrame: startFrame + length };
}

/**
 * The steps that make a listening copy behind a sound with a marked loop: its intro, the passes one behind the
 * other, the fade to exactly zero on the last one, silence around it. In a pass that is too short for it the
 * fade begins earlier: it always ends with the copy, and never takes more than the last pass.
 * @throws not-allowed where no loop is marked
 */
export function listeningSteps(marks: SoundMarks, { rateHz }: Shape, wish: ListeningWish): Step[] {
  const { intro, first, repeat } = partsOf(marks);
  const length = repeat.endFrame - repeat.startFrame;
  const inFrames = (seconds: number) => Math.round(seconds * rateHz);
  const fadeFrames = Math.max(1, Math.min(length, inFrames(wish.fadeSeconds)));
  const lastFrames = Math.min(length, inFrames(wish.fadeAfterSeconds) + fadeFrames);
  const startFrame = (intro ?? first).startFrame;
  // A first pass of its own is one of the passes.
  const repeats = wish.times - (first === repeat ? 0 : 1);
  const endFrame = first.startFrame + (wish.times - 1) * length + lastFrames;
  const headFrames = inFrames(wish.silenceBeforeSeconds);
  const tailFrames = inFrames(wish.silenceBehindSeconds);
  return [
    ...(repeats > 1 ? [step('repeat', { ...repeat, times: repeats })] : []),
    step('keep', { startFrame, endFrame, withoutLoop: true }),
    step('fade-out', { frames: fadeFrames, shape: 's' }),
    ...(headFrames + tailFrames > 0 ? [step('pad', { headFrames, tailFrames })] : []),
  ];
}
