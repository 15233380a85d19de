import * as yup from 'yup';
import { measureSeam } from '@/core/loop/seam';
import { frame } from './fields';
import { question } from './question';

/** How little one hears where a loop repeats, with what that is made of. */
export const seam = question({
  told: yup.object({ startFrame: frame(), endFrame: frame() }),
  urgency: () => 2,
  answer: (source, loop) => measureSeam(source, loop),
});
