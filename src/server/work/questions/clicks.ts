import * as yup from 'yup';
import type { Click } from '@/core/dsp/declick';
import { BijouError } from '@/core/errors';
import type { ClickPlace } from '@/wire';
import { lastFigure } from '../figures';
import { checkFound, question } from './question';

/** What the declick that ends the recipe has found; it did so when the sound was opened. */
export const clicks = question({
  told: yup.object({}),
  check(_, recipe) {
    if (recipe?.steps.findLast(({ on }) => on)?.kind !== 'declick') throw noDeclick();
  },
  urgency: () => 1,
  async answer(_, __, tools): Promise<ClickPlace[]> {
    const found = (await lastFigure(tools)) as Click[];
    checkFound(found, 'clicks');
    return found.map(({ channel, startFrame, samples }) => ({
      channel,
      startFrame,
      frames: samples.length,
    }));
  },
});

function noDeclick(): BijouError {
  return new BijouError(
    'bad-setting',
    'Only a declick finds clicks, and the recipe does not end with one.',
    'Send the recipe up to the declick.',
  );
}
