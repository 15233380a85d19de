/** What is played: frames from `start` up to, not including, `end`. */
export interface Range {
  start: number;
  end: number;
}

/** Stretches that are played one behind the other: some once, then some around, for ever. */
export interface Course {
  once: readonly Range[];
  around: readonly Range[];
}

/** A place on a course. */
export interface Place {
  /** Counts through `once` and then `around`. */
  stretch: number;
  frame: number;
  /** How often what is played around has begun. */
  pass: number;
}

/** A run of frames on the way. */
export interface Run {
  place: Place;
  frames: number;
}

/** A stretch, once or around. */
export function courseOf(range: Range, isAround: boolean): Course {
  return isAround ? { once: [], around: [range] } : { once: [range], around: [] };
}

function stretches({ once, around }: Course): readonly Range[] {
  return [...once, ...around];
}

/** Where a course begins, or that place on it whose frame is given; null for an empty course. */
export function placeOn(course: Course, frame?: number): Place | null {
  const all = stretches(course);
  const at = all.findIndex(
    ({ start, end }) => frame !== undefined && frame >= start && frame < end,
  );
  const stretch = Math.max(0, at);
  const range = all[stretch];
  if (!range) return null;
  const pass = stretch >= course.once.length ? 1 : 0;
  return { stretch, frame: at < 0 ? range.start : frame!, pass };
}

/** As many frames as there are from a place on, at most `most`, and where it goes on; null at the end. */
export function runFrom(
  course: Course,
  place: Place,
  most: number,
): { run: Run; next: Place | null } {
  const all = stretches(course);
  const { end } = all[place.stretch]!;
  const frames = Math.min(most, end - place.frame);
  const run = { place, frames };
  if (place.frame + frames < end) return { run, next: { ...place, frame: place.frame + frames } };
  const following = place.stretch + 1;
  if (following < all.length) {
    const begins = following === course.once.length;
    const pass = place.pass + (begins ? 1 : 0);
    return { run, next: { stretch: following, frame: all[following]!.start, pass } };
  }
  const { length } = course.once;
  const first = all[length];
  return {
    run,
    next: first ? { stretch: length, frame: first.start, pass: place.pass + 1 } : null,
  };
}

/** Where one goes on who was at a place of a course that has changed meanwhile: nothing is heard twice. */
export function steered(course: Course, place: Place): Place | null {
  const all = stretches(course);
  if (all.length === 0) return null;
  const range = all[place.stretch];
  if (!range) return placeOn(course, place.frame);
  if (place.frame < range.end) return { ...place, frame: Math.max(range.start, place.frame) };
  // Its end was moved away from under it.
  return runFrom(course, { ...place, frame: range.end }, 0).next;
}

/** How many frames are played around; Infinity where nothing is. */
export function aroundFrames({ around }: Course): number {
  if (around.length === 0) return Infinity;
  return around.reduce((sum, { start, end }) => sum + end - start, 0);
}
