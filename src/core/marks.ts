/** What travels beside the samples: names for people, a loop, and marked places. */

/** The tags that every format with tags can hold. */
export const tagNames = ['title', 'artist', 'album', 'genre', 'year', 'comment', 'track'] as const;
export type TagName = (typeof tagNames)[number];
export type Tags = Partial<Record<TagName, string>>;

/** A stretch: from `startFrame` up to, not including, `endFrame`. */
interface Stretch {
  startFrame: number;
  endFrame: number;
}

/** The stretch that repeats. */
export type Loop = Stretch;

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

/** Marks as steps set and move them: with the parts around the loop, for which no file has a place. */
export interface SoundMarks extends Marks {
  /** What is played once in front of the loop. */
  intro: Stretch | null;
  /** What still rings behind the loop's musical end. */
  tail: Stretch | null;
}

/** Where a frame of the sound lands behind a change; null when it is cut away. May be fractional. */
export type Place = (frame: number) => number | null;

/**
 * Moves loop, its parts and markers along with a change. Lengths become whole and stretches stay inside the
 * sound; one that lost an end is none any more.
 */
export function moveMarks(marks: SoundMarks, place: Place, framesAfter: number): SoundMarks {
  const markers = marks.markers.flatMap(({ frame, name }) => {
    const moved = place(frame);
    return moved === null ? [] : [{ name, frame: Math.min(framesAfter, Math.round(moved)) }];
  });
  const move = (stretch: Stretch | null) => stretch && moveStretch(stretch, place, framesAfter);
  const loop = move(marks.loop);
  return {
    tags: marks.tags,
    markers: markers.sort((a, b) => a.frame - b.frame),
    loop,
    ...besideLoop(loop, move(marks.intro), move(marks.tail)),
  };
}

function moveStretch(stretch: Stretch, place: Place, framesAfter: number): Stretch | null {
  const a = place(stretch.startFrame);
  const b = endBehind(stretch, place);
  if (a === null || b === null) return null;
  // Half a frame is half a frame, however the two places were rounded.
  const length = Math.min(framesAfter, Math.round(Math.abs(b - a) + 1e-9 * Math.max(1, a, b)));
  if (length < 1) return null;
  const startFrame = Math.max(0, Math.min(Math.round(Math.min(a, b)), framesAfter - length));
  return { startFrame, endFrame: startFrame + length };
}

/** Intro and tail touch their loop; what has come to lie on its other side, or has lost it, is neither any more. */
function besideLoop(loop: Loop | null, intro: Stretch | null, tail: Stretch | null) {
  const isInFront = loop && intro && intro.startFrame < loop.startFrame;
  const isBehind = loop && tail && tail.endFrame > loop.endFrame;
  return {
    intro: isInFront ? { startFrame: intro.startFrame, endFrame: loop.startFrame } : null,
    tail: isBehind ? { startFrame: loop.endFrame, endFrame: tail.endFrame } : null,
  };
}

/**
 * Where the end of a stretch lands. It is the boundary behind its last frame and not the frame that comes
 * next: what is put in there, or cut away from there on, is no part of it.
 */
function endBehind({ startFrame, endFrame }: Stretch, place: Place): number | null {
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
