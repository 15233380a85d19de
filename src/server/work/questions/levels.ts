import * as yup from 'yup';
import { levelsOf } from '../figures';
import { question } from './question';

/** Length, peak and RMS; true peak and loudness too when it is to be thorough. */
export const levels = question({
  told: yup.object({ isThorough: yup.boolean().required() }),
  // Figures of the result go before those of single steps.
  urgency: ({ isThorough }) => (isThorough ? 2 : 3),
  answer: (source, { isThorough }, tools) => levelsOf(source, tools, isThorough),
});
