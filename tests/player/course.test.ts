import fc from 'fast-check';
import { courseOf, placeOn, runFrom, steered, type Course, type Place } from '@/player/course';

/** The frames that are heard from a place on, with the passes in which they are. */
function heard(course: Course, from: Place | null, count: number, most = 7) {
  const frames: number[] = [];
  const passes: number[] = [];
  for (let place = from; place && frames.length < count;) {
    const { run, next } = runFrom(course, place, most);
    for (let i = 0; i < run.frames; i++) {
      frames.push(run.place.frame + i);
      passes.push(run.place.pass);
    }
    place = next;
  }
  return { frames: frames.slice(0, count), passes: passes.slice(0, count) };
}

const numbers = (from: number, to: number) => Array.from({ length: to - from }, (_, i) => from + i);

test('a stretch is played once, or around from wherever one begins', () => {
  const range = { start: 10, end: 20 };
  expect(heard(courseOf(range, false), placeOn(courseOf(range, false)), 99).frames).toEqual(
    numbers(10, 20),
  );
  const around = courseOf(range, true);
  expect(heard(around, placeOn(around, 17), 15).frames).toEqual([
    ...numbers(17, 20),
    ...numbers(10, 20),
    ...numbers(10, 12),
  ]);
  // What lies outside begins at the beginning.
  expect(placeOn(around, 25)).toEqual({ stretch: 0, frame: 10, pass: 1 });
  expect(placeOn({ once: [], around: [] })).toBeNull();
});

test('what is played once comes first, and passes are counted', () => {
  const course = {
    once: [{ start: 0, end: 3 }],
    around: [
      { start: 5, end: 7 },
      { start: 1, end: 2 },
    ],
  };
  expect(heard(course, placeOn(course), 9)).toEqual({
    frames: [0, 1, 2, 5, 6, 1, 5, 6, 1],
    passes: [0, 0, 0, 1, 1, 1, 2, 2, 2],
  });
});

test('however it is cut into runs, around N times is N copies', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 50 }),
      fc.integer({ min: 1, max: 40 }),
      fc.integer({ min: 1, max: 30 }),
      fc.integer({ min: 1, max: 9 }),
      (start, length, most, times) => {
        const course = courseOf({ start, end: start + length }, true);
        const { frames, passes } = heard(course, placeOn(course), length * times, most);
        expect(frames).toEqual(
          Array.from({ length: times }, () => numbers(start, start + length)).flat(),
        );
        expect(passes.at(-1)).toBe(times);
      },
    ),
  );
});

describe('a course that changes under one who is on it', () => {
  const before = { stretch: 1, frame: 90, pass: 3 };
  const course = (end: number, start = 40) => ({
    once: [{ start: 0, end: start }],
    around: [{ start, end }],
  });

  test('is gone on with at the same frame', () => {
    expect(steered(course(101), before)).toEqual(before);
    expect(steered(course(100, 41), before)).toEqual(before);
  });

  test('begins its next stretch where the end was moved away', () => {
    expect(steered(course(90), before)).toEqual({ stretch: 1, frame: 40, pass: 4 });
    expect(steered(course(60), before)).toEqual({ stretch: 1, frame: 40, pass: 4 });
    const seam = {
      once: [],
      around: [
        { start: 80, end: 85 },
        { start: 10, end: 20 },
      ],
    };
    expect(steered(seam, { stretch: 0, frame: 88, pass: 1 })).toMatchObject({
      stretch: 1,
      frame: 10,
    });
  });

  test('begins where a start was moved beyond it', () => {
    expect(steered(course(200, 95), before)).toEqual({ stretch: 1, frame: 95, pass: 3 });
  });

  test('of other stretches is looked for the frame', () => {
    expect(steered(courseOf({ start: 80, end: 95 }, false), before)).toEqual({
      stretch: 0,
      frame: 90,
      pass: 0,
    });
    expect(steered({ once: [], around: [] }, before)).toBeNull();
  });
});
