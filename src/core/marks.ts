/** What travels beside the samples: names for people, a loop, and marked places. */

/** The tags that every format with tags can hold. */
export const tagNames = ['title', 'artist', 'album', 'genre', 'year', 'comment', 'track'] as const;
export type TagName = (typeof tagNames)[number];
export type Tags = Partial<Record<TagName, string>>;

/** The stretch that repeats: from `startFrame` up to, not including, `endFrame`. */
export interface Loop {
  startFrame: number;
  endFrame: number;
}

export interface Marker {
  frame: number;
  name: string;
}

export interface Marks {
  tags: Tags;
  loop: Loop | null;
  markers: readonly Marker[];
}

export const noMarks: Marks = { tags: {}, loop: null, markers: [] };

/** Where a frame of the sound lands behind a change; null when it is cut away. May be fractional. */
export type Place = (frame: number) => number | null;

/**
 * Moves loop and markers along with a change. The loop's length becomes whole and the loop stays
 * inside the sound; a loop that lost an end is no loop any more.
 */
export function moveMarks(marks: Marks, place: Place, framesAfter: number): Marks {
  const markers = marks.markers.flatMap(({ frame, name }) => {
    const moved = place(frame);
    return moved === null ? [] : [{ name, frame: Math.min(framesAfter, Math.round(moved)) }];
  });
  return {
    tags: marks.tags,
    markers: markers.sort((a, b) => a.frame - b.frame),
    loop: marks.loop && moveLoop(marks.loop, place, framesAfter),
  };
}

function moveLoop(loop: Loop, place: Place, framesAfter: number): Loop | null {
  const a = place(loop.startFrame);
  const b = endBehind(loop, place);
  if (a === null || b === null) return null;
  // Half a frame is half a frame, however the two places were rounded.
  const length = Math.min(framesAfter, Math.round(Math.abs(b - a) + 1e-9 * Math.max(1, a, b)));
  if (length < 1) return null;
  const startFrame = Math.max(0, Math.min(Math.round(Math.min(a, b)), framesAfter - length));
  return { startFrame, endFrame: startFrame + length };
}

/**
 * Where the end of a loop lands. It is the boundary behind the loop's last frame and not the frame that comes
 * next: what is put in there, or cut away from there on, is no part of the loop.
 */
function endBehind({ startFrame, endFrame }: Loop, place: Place): number | null {
  const [last, next] = [place(endFrame - 1), place(endFrame)];
  if (last === null) return next;
  const before = endFrame - 2 >= startFrame ? place(endFrame - 2) : null;
  const step = before === null ? null : last - before;
  if (next === null) return last + (step ?? 1);
  // Where both say where the end is, the nearer one has nothing in between.
  return step !== null && Math.abs(step) < Math.abs(next - last) ? last + step : next;
}

/** A loop as a file states it, or null when it lies outside the sound or has no length. */
export function loopWithin(
  startFrame: number,
  endFrame: number,
  frames: number | null,
): Loop | null {
  const whole = Number.isSafeInteger(startFrame) && Number.isSafeInteger(endFrame);
  if (!whole || startFrame < 0 || endFrame <= startFrame) return null;
  return frames !== null && endFrame > frames ? null : { startFrame, endFrame };
}

const MOST_CHARACTERS = 4_000;

/** Tags as a file holds them, made fit to show: printable, of bearable length, none empty. */
export function tidyTags(found: Partial<Record<TagName, string | undefined>>): Tags {
  const tags: Tags = {};
  for (const name of tagNames) {
    const text = [...(found[name] ?? '').replace(/[\p{Cc}\p{Cs}]+/gu, ' ')]
      .slice(0, MOST_CHARACTERS)
      .join('')
      .trim();
    if (text !== '') tags[name] = text;
  }
  return tags;
}
