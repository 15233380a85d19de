import * as yup from 'yup';
import { BijouError } from '../../errors';
import { formatTime } from '../../time';
import type { Shape, StepField } from '../types';
import { count } from '../../tradeNames';

/** Frames from `startFrame` up to, not including, `endFrame`. */
export interface Span {
  startFrame: number;
  endFrame: number;
}

export const frameNumber = () => yup.number().integer().min(0).required();
export const spanParams = { startFrame: frameNumber(), endFrame: frameNumber() };
export const spanFields: readonly StepField[] = [
  { name: 'startFrame', label: 'From', type: 'place' },
  { name: 'endFrame', label: 'To', type: 'place' },
];

/** Somewhere to begin: at most a tenth of a sound. */
export function firstTenth({ frames }: Shape): Span {
  return { startFrame: 0, endFrame: Math.max(1, Math.floor(frames / 10)) };
}

export function spanText({ startFrame, endFrame }: Span, { rateHz }: Shape): string {
  return `${formatTime(startFrame / rateHz)} to ${formatTime(endFrame / rateHz)}`;
}

/** @throws bad-span unless the span has a length and lies inside the sound. */
export function checkSpan({ startFrame, endFrame }: Span, { frames, rateHz }: Shape): void {
  if (startFrame === endFrame) {
    throw new BijouError(
      'bad-span',
      'The span has no length: it ends where it begins.',
      'Set an end that lies after the start.',
    );
  }
  if (startFrame > endFrame) {
    throw new BijouError('bad-span', 'The span ends before it begins.', 'Exchange start and end.');
  }
  if (endFrame > frames) {
    throw new BijouError(
      'bad-span',
      `The span lies outside the sound: it ends at frame ${count(endFrame)}, the sound at ${count(frames)} ` +
        `(${formatTime(frames / rateHz)}).`,
      'Choose a start and an end inside the sound.',
    );
  }
}
