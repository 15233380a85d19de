import { expect } from '@playwright/test';
import { combinations, nameOf } from '../../tools/legality/combinations';
import { ForeignDecoders } from '../../tools/legality/foreign';
import { judged } from '../../tools/legality/judge';
import { test } from './page';

/**
 * The ends and the middle of everything that may be written, encoded for real and decoded by strangers: the
 * whole of it is `npm run bench -- legality`.
 */
const samples = [...combinations(true)].filter((_, i) => i % 3 === 0);
const lossless = new Set(['wav', 'aiff', 'flac']);

const containers = [...new Set(samples.map(({ writer }) => writer.id))];

for (const id of containers) {
  test(`${id}: what is legal is written by the book, and others decode it`, async ({ page }) => {
    const decoders = await ForeignDecoders.open(page);
    for (const combination of samples.filter(({ writer }) => writer.id === id)) {
      const frames = Math.round(combination.rateHz / 4) + 37;
      const { faults, errorDb } = await judged(combination, frames, decoders);
      expect([nameOf(combination), faults]).toEqual([nameOf(combination), []]);
      const isExact =
        lossless.has(id) && !('bits' in combination.settings && combination.settings.bits === 8);
      if (errorDb !== null) expect(errorDb).toBeLessThan(isExact ? -60 : 1);
    }
  });
}
