import { lateness } from '@/player/clock';

test('a span that comes in time begins where it was planned; a late one a moment from now', () => {
  const context = { currentTime: 2, sampleRate: 48_000 };
  expect(lateness(context, 96_000)).toBe(0);
  expect(lateness(context, 100_000)).toBe(0);
  const late = lateness(context, 90_000);
  // What is behind it begins where it ends, and not where it would have.
  expect(90_000 + late).toBeGreaterThan(96_000);
  expect(90_000 + late).toBeLessThan(96_000 + 48_000 / 10);
});
