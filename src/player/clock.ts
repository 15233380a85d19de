/** Frames of an audio context and its times, which are not quite the same. */

type Clock = Pick<AudioContext, 'currentTime' | 'sampleRate'>;

const LEAD_SECONDS = 0.03;

/**
 * Whether the time of a frame leads back to exactly itself, as that of most does: a browser that finds a start
 * between two frames mixes these, and samples are not what they were.
 */
function isExact(frame: number, rateHz: number): boolean {
  return (frame / rateHz) * rateHz === frame;
}

/** A frame a moment ahead at which something can begin, and something else behind so many frames of it. */
export function firstFrame(
  { currentTime, sampleRate }: Clock,
  { leadSeconds = LEAD_SECONDS, frames = 0 } = {},
): number {
  let frame = Math.ceil((currentTime + leadSeconds) * sampleRate);
  while (!isExact(frame, sampleRate) || !isExact(frame + frames, sampleRate)) frame++;
  return frame;
}

/** At most so many frames from one on, behind which something else can begin. */
export function exactLength(from: number, most: number, rateHz: number): number {
  let frames = most;
  while (frames > 1 && !isExact(from + frames, rateHz)) frames--;
  return frames;
}

/** By how many frames a start comes too late; 0 when it does not. */
export function lateness(context: Clock, whenFrame: number, frames = 0): number {
  const isLate = context.currentTime * context.sampleRate > whenFrame;
  return isLate ? firstFrame(context, { frames }) - whenFrame : 0;
}

/** The time of a frame, never a breath behind it: then the next frame would be the first to sound. */
export function timeOf(frame: number, rateHz: number): number {
  const time = frame / rateHz;
  return time * rateHz > frame ? time * (1 - Number.EPSILON) : time;
}
