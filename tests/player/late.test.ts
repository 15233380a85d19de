import { exactLength, firstFrame, lateness } from '@/player/clock';

test('a span that comes in time begins where it was planned; a late one a moment from now', () => {
  const context = { currentTime: 2, sampleRate: 48_000 };
  expect(lateness(context, 96_000)).toBe(0);
  expect(lateness(context, 100_000)).toBe(0);
  const late = lateness(context, 90_000);
  // What is behind it begins where it ends, and not where it would have.
  expect(90_000 + late).toBeGreaterThan(96_000);
  expect(90_000 + late).toBeLessThan(96_000 + 48_000 / 10);
});

test('what follows something begins at a frame whose time is exactly its own', () => {
  const isExact = (frame: number, rateHz: number) => (frame / rateHz) * rateHz === frame;
  for (const sampleRate of [8_000, 11_025, 44_100, 48_000, 96_000]) {
    for (let i = 0; i < 300; i++) {
      const frames = 17_640 + 7 * i;
      const at = firstFrame({ currentTime: i * 0.377, sampleRate }, { frames });
      expect([isExact(at, sampleRate), isExact(at + frames, sampleRate)]).toEqual([true, true]);
      const length = exactLength(at, 4 * sampleRate, sampleRate);
      expect(isExact(at + length, sampleRate)).toBe(true);
      expect(length).toBeGreaterThan(4 * sampleRate - 50);
    }
  }
});
