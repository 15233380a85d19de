import * as yup from 'yup';
import { answer, body, whole } from '../../../answer';

const schema = yup
  .object({
    /** What is in it, side by side. */
    briefs: yup
      .array(yup.string().max(100).required())
      .min(1)
      .max(100)
      .test('once', '${path} names a destination twice', (ids) => new Set(ids).size === ids?.length)
      .required(),
  })
  .noUnknown();

/** The packs of a project, newest first. */
export const GET = answer(async ({ params, bijou }) =>
  bijou.packing.list(whole(params['project'], 'project')),
);

/** Makes a pack: builds what is missing, and puts it together. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { briefs } = await body(request, schema);
  return bijou.packing.make(whole(params['project'], 'project'), briefs);
});
