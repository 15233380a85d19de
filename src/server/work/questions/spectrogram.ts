import * as yup from 'yup';
import { spectrogram as pictureOf } from '@/core/measure/spectrogram';
import { amount, frame } from './fields';
import { checkCount, checkSpan, MOST_COLUMNS, question } from './question';

const MOST_ROWS = 1_024;

/** Levels over time and pitch, one byte each, column by column. */
export const spectrogram = question({
  told: yup.object({ startFrame: frame(), endFrame: frame(), columns: amount(), rows: amount() }),
  check({ startFrame, endFrame, columns, rows }) {
    checkSpan(startFrame, endFrame - startFrame);
    checkCount(columns, MOST_COLUMNS);
    checkCount(rows, MOST_ROWS);
  },
  urgency: () => 1,
  answer: (source, told) => pictureOf(source, told),
});
