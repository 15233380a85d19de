import { courseFor } from '@/ui/shape/loop/courses';
import { lensGain } from '@/ui/shape/loop/lens';

const span = (startFrame: number, endFrame: number) => ({ startFrame, endFrame });
const RATE = 100;
const parts = {
  intro: span(50, 200),
  first: span(200, 1_200),
  repeat: span(1_200, 2_200),
  tail: span(2_200, 2_300),
};

test('a loop is heard around its seam, as a whole, and from its intro on', () => {
  expect(courseFor('seam', parts, RATE)).toEqual({
    once: [],
    around: [
      { start: 2_000, end: 2_200 },
      { start: 1_200, end: 1_400 },
    ],
  });
  expect(courseFor('whole', parts, RATE)).toEqual({
    once: [],
    around: [{ start: 1_200, end: 2_200 }],
  });
  // Intro and the dry first pass once, then what carries its tail.
  expect(courseFor('through', parts, RATE)).toEqual({
    once: [{ start: 50, end: 1_200 }],
    around: [{ start: 1_200, end: 2_200 }],
  });
  const bare = { ...parts, intro: null, first: parts.repeat };
  expect(courseFor('through', bare, RATE)).toEqual(courseFor('whole', bare, RATE));
});

test('of a loop shorter than what is heard around a seam both sides are all of it', () => {
  const short = { ...parts, first: span(0, 40), repeat: span(0, 40), intro: null };
  expect(courseFor('seam', short, RATE).around).toEqual([
    { start: 0, end: 40 },
    { start: 0, end: 40 },
  ]);
});

test('the lens makes quiet sounds as high as it is, and silence no higher', () => {
  const sides = (...samples: number[]) => ({
    rateHz: RATE,
    before: [Float32Array.from(samples)],
    behind: [new Float32Array(samples.length)],
  });
  expect(lensGain(sides(0.25, -0.5))).toBe(2);
  expect(lensGain(sides(1, 0))).toBe(1);
  expect(lensGain(sides(0, 0))).toBe(1);
  expect(lensGain(sides(1e-9, 0))).toBe(1_000);
});
