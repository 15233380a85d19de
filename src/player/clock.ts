/** Frames of an audio context and its times, which are not quite the same. */

type Clock = Pick<AudioContext, 'currentTime' | 'sampleRate'>;

const LEAD_SECONDS = 0.03;

/**
 * A frame a moment ahead whose time leads back to exactly itself: a browser that finds a start between two
 * frames mixes these, and samples are not what they were.
 */
export function firstFrame({ currentTime, sampleRate }: Clock, leadSeconds = LEAD_SECONDS): number {
  let frame = Math.ceil((currentTime + leadSeconds) * sampleRate);
  while ((frame / sampleRate) * sampleRate !== frame) frame++;
  return frame;
}

/** By how many frames a start comes too late; 0 when it does not. */
export function lateness(context: Clock, whenFrame: number): number {
  const isLate = context.currentTime * context.sampleRate > whenFrame;
  return isLate ? firstFrame(context) - whenFrame : 0;
}

/** The time of a frame, never a breath behind it: then the next frame would be the first to sound. */
export function timeOf(frame: number, rateHz: number): number {
  const time = frame / rateHz;
  return time * rateHz > frame ? time * (1 - Number.EPSILON) : time;
}
