import { fadeInGain, fadeOutGain, type FadeShape } from '@/core/dsp/fade';

/** Worked out by hand: a quarter, half and three quarters of the way. */
const curves: [FadeShape, number, number, number][] = [
  ['linear', 0.25, 0.5, 0.75],
  ['equal-power', 0.382683, 0.707107, 0.92388],
  ['exponential', 0.004628, 0.030653, 0.177005],
  ['s', 0.146447, 0.5, 0.853553],
];

test.each(curves)('%s rises as its formula says, and falls the same way', (shape, ...wanted) => {
  const at = [250, 500, 750];
  at.forEach((frame, i) => {
    expect(fadeInGain(frame, 1_000, shape)).toBeCloseTo(wanted[i]!, 5);
    // The last frame of 5,000 is 0: a quarter of the way lies 250 frames in front of it.
    expect(fadeOutGain(4_999 - frame, 5_000, 1_000, shape)).toBeCloseTo(wanted[i]!, 5);
  });
  expect(fadeInGain(0, 1_000, shape)).toBe(0);
  expect(fadeInGain(999, 1_000, shape)).toBeLessThan(1);
  expect(fadeInGain(1_000, 1_000, shape)).toBe(1);
  expect(fadeOutGain(4_999, 5_000, 1_000, shape)).toBe(0);
  expect(fadeOutGain(3_999, 5_000, 1_000, shape)).toBe(1);
  expect(fadeOutGain(4_000, 5_000, 1_000, shape)).toBeLessThan(1);
});
