import * as yup from 'yup';
import { BUCKET_FRAMES, readColumns } from '@/core/measure/pyramid';
import { closeColumns, packColumns } from '../columns';
import { withPyramid } from '../figures';
import { amount, frame } from './fields';
import { checkCount, checkSpan, MOST_COLUMNS, question } from './question';

/** Columns of a picture over the span: channel by channel `min, max, rms` for each. */
export const peaks = question({
  told: yup.object({ start: frame(), end: frame(), columns: amount() }),
  check({ start, end, columns }) {
    checkSpan(start, end - start);
    checkCount(columns, MOST_COLUMNS);
  },
  reach: (told) => (isClose(told) ? told.end : 0),
  urgency: () => 1,
  async answer(source, { start, end, columns }, tools): Promise<Float32Array> {
    if (isClose({ start, end, columns })) return closeColumns(source, start, end, columns);
    return withPyramid(source, tools, async (pyramid) =>
      packColumns(await readColumns(pyramid, start, end, columns)),
    );
  },
});

/** Whether it is looked at so closely that the stored pyramid knows too little. */
function isClose({ start, end, columns }: { start: number; end: number; columns: number }) {
  return (end - start) / columns < BUCKET_FRAMES;
}
