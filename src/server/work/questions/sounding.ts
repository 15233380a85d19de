import * as yup from 'yup';
import { readBucketPeaks } from '@/core/measure/pyramid';
import { soundingStretches } from '@/core/measure/sounding';
import { withPyramid } from '../figures';
import { checkFound, question } from './question';

/** Where it sounds, louder than the threshold. */
export const sounding = question({
  told: yup.object({
    thresholdDb: yup.number().min(-140).max(0).required(),
    leastSilenceSeconds: yup.number().min(0).max(3_600).required(),
  }),
  urgency: () => 1,
  answer: (source, { thresholdDb, leastSilenceSeconds }, tools) =>
    withPyramid(source, tools, async (pyramid) => {
      const found = await soundingStretches(source, await readBucketPeaks(pyramid), {
        threshold: 10 ** (thresholdDb / 20),
        leastSilenceFrames: Math.round(leastSilenceSeconds * source.rateHz),
      });
      checkFound(found, 'stretches that sound');
      return found;
    }),
});
