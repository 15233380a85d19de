import * as yup from 'yup';
import { answer, body, whole } from '../../../../../answer';

const schema = yup
  .object({
    fill: yup
      .array(
        yup
          .object({
            path: yup.string().max(240).required(),
            /** null empties the slot. */
            soundId: yup.number().integer().nullable().defined(),
          })
          .noUnknown()
          .required(),
      )
      .min(1)
      .max(2_000)
      .required(),
  })
  .noUnknown();

/** Which sounds would fill which empty slots by their names. */
export const GET = answer(async ({ params, bijou }) =>
  bijou.layouts.byName(whole(params['project'], 'project'), params['brief'] ?? ''),
);

/** Fills slots, each with one sound. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { fill } = await body(request, schema);
  return bijou.layouts.fill(whole(params['project'], 'project'), params['brief'] ?? '', fill);
});
