import fc from 'fast-check';
import { clockText, turn, TURN_SECONDS, turnAfter, waterLevel } from '@/core/host/mod/tide';

test('the tide turns four times in a lunar day, from high water to low and back', () => {
  expect(TURN_SECONDS * 4).toBe(24 * 3_600 + 50 * 60);
  expect(turnAfter(0)).toEqual({ number: 1, water: 'low', at: TURN_SECONDS });
  expect(turnAfter(TURN_SECONDS)).toMatchObject({ number: 2, water: 'high' });
  expect(waterLevel(turn(4).at)).toBeCloseTo(1);
  expect(waterLevel(turn(5).at)).toBeCloseTo(-1);
});

test('the next turn lies ahead, by one turn at most', () => {
  fc.assert(
    fc.property(fc.double({ min: 0, max: 1e7, noNaN: true }), (now) => {
      const next = turnAfter(now);
      expect(next.at).toBeGreaterThan(now);
      expect(next.at - now).toBeLessThanOrEqual(TURN_SECONDS + 1e-6);
    }),
  );
});

test('the clock begins at noon and goes round', () => {
  expect([0, 59, 60, 12 * 3_600, 12 * 3_600 - 1].map(clockText)).toEqual([
    ...['12:00', '12:00', '12:01', '00:00', '23:59'],
  ]);
});
