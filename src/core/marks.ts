/** What travels beside the samples: names for people, a loop, and marked places. */

/** The tags that every format with tags can hold. */
export const tagNames = ['title', 'artist', 'album', 'genre', 'year', 'comment', 'track'] as const;
export type TagName = (typeof tagNames)[number];
export type Tags = Partial<Record<TagName, string>>;

/** A stretch: from `startFrame` up to, not including, `endFrame`. */
export interface Stretch {
  startFrame: number;
  endFrame: number;
}

/** The stretch that repeats: endlessly and forward, where nothing else is said. */
export interface Loop extends Stretch {
  /** It is played forward and backward by turns. */
  isBackAndForth?: true;
  /** Every pass is played backward. */
  isBackward?: true;
  /** It is played so often, then goes on in what lies behind it. */
  times?: number;
}

/** What else is said of a loop than where it lies, for people: none of it for the usual one. */
export function loopManner({
  isBackAndForth,
  isBackward,
  times,
}: Omit<Loop, keyof Stretch>): string[] {
  return [
    isBackAndForth ? 'back and forth' : '',
    isBackward ? 'backward' : '',
    times === undefined ? '' : times === 1 ? 'once' : `${times} times`,
  ].filter((text) => text !== '');
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
/** What only steps can set. */
export const noParts = { intro: null, first: null, tail: null };

/** Marks as steps set and move them: with the parts around the loop, for which no file has a place. */
export interface SoundMarks extends Marks {
  /** What is played once in front of the first pass. */
  intro: Stretch | null;
  /** The first pass where it is another than the repeats: as long as the loop, right in front of it. */
  first: Stretch | null;
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
  const move = (stretch: Stretch | null) => stretch && movedStretch(stretch, place, framesAfter);
  const moved = move(marks.loop);
  const loop: Loop | null = moved && { ...marks.loop, ...moved };
  return {
    tags: marks.tags,
    markers: markers.sort((a, b) => a.frame - b.frame),
    loop,
    ...besideLoop(loop, move(marks.intro), move(marks.first), move(marks.tail)),
  };
}

/** Where a stretch lands: its length becomes whole, and it stays inside the sound. null when it lost an end. */
export function movedStretch(stretch: Stretch, place: Place, framesAfter: number): Stretch | null {
  const a = place(stretch.startFrame);
  const b = endBehind(stretch, place);
  if (a === null || b === null) return null;
  // Half a frame is half a frame, however the two places were rounded.
  const length = Math.min(framesAfter, Math.round(Math.abs(b - a) + 1e-9 * Math.max(1, a, b)));
  if (length < 1) return null;
  const startFrame = Math.max(0, Math.min(Math.round(Math.min(a, b)), framesAfter - length));
  return { startFrame, endFrame: startFrame + length };
}

/**
 * The parts touch each other and their loop; what has come to lie on its other side, or has lost it, is none any
 * more. A first pass is as long as the others, however their places were rounded.
 */
function besideLoop(
  loop: Loop | null,
  intro: Stretch | null,
  first: Stretch | null,
  tail: Stretch | null,
) {
  if (!loop) return noParts;
  const { startFrame, endFrame } = loop;
  const firstStart = startFrame - (endFrame - startFrame);
  const hasFirst = first && first.startFrame < startFrame && firstStart >= 0;
  const played = hasFirst ? firstStart : startFrame;
  return {
    intro:
      intro && intro.startFrame < played
        ? { startFrame: intro.startFrame, endFrame: played }
        : null,
    first: hasFirst ? { startFrame: firstStart, endFrame: startFrame } : null,
    tail:
      tail && tail.endFrame > endFrame ? { startFrame: endFrame, endFrame: tail.endFrame } : null,
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

/** A loop as a file states it, which may lie outside of the sound; null when it is none. */
export function statedLoop(
  startFrame: number,
  endFrame: number,
  { isBackAndForth = false, isBackward = false, times = 0 } = {},
): Loop | null {
  const whole = Number.isSafeInteger(startFrame) && Number.isSafeInteger(endFrame);
  if (!whole || startFrame < 0 || endFrame <= startFrame) return null;
  return {
    startFrame,
    endFrame,
    ...(isBackAndForth && { isBackAndForth }),
    ...(isBackward && { isBackward }),
    ...(times > 0 && { times }),
  };
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
