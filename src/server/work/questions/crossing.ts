import * as yup from 'yup';
import { nearestCrossing, zeroCrossing } from '@/core/measure/crossing';
import { frame } from './fields';
import { question } from './question';

/** The zero crossing before (−1), behind (1) or nearest to (0) a frame; null where there is none. */
export const crossing = question({
  told: yup.object({
    frame: frame(),
    direction: yup.mixed<-1 | 0 | 1>().oneOf([-1, 0, 1]).required(),
  }),
  urgency: () => 0,
  async answer(source, told): Promise<{ frame: number | null }> {
    const found =
      told.direction === 0
        ? nearestCrossing(source, told.frame)
        : zeroCrossing(source, told.frame, told.direction);
    return { frame: await found };
  },
});
