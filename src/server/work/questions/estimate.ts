import * as yup from 'yup';
import { noMarks, type Marks, type Tags } from '@/core/marks';
import { estimateOf } from '../figures';
import { frame } from './fields';
import { question } from './question';

/** What travels with the samples: its length counts. */
const marksField = yup
  .object({
    tags: yup.mixed<Tags>((value): value is Tags => isTexts(value)).required(),
    loop: yup.object({ startFrame: frame(), endFrame: frame() }).nullable().default(null),
    markers: yup
      .array(yup.object({ frame: frame(), name: yup.string().defined() }).required())
      .max(10_000)
      .required(),
  })
  .default(undefined);

function isTexts(value: unknown): boolean {
  return (
    typeof value === 'object' &&
    value !== null &&
    Object.values(value).every((text) => typeof text === 'string' && text.length < 10_000)
  );
}

/** What it will come to as a file of a kind, in bytes. */
export const estimate = question({
  told: yup.object({
    writer: yup.string().required(),
    settings: yup.object().required(),
    marks: marksField,
  }),
  urgency: () => 3,
  answer: (source, { writer, settings, marks }, tools) =>
    estimateOf(source, tools, { writer, settings, marks: (marks ?? noMarks) as Marks }),
});
