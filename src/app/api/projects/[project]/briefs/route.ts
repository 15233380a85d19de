import * as yup from 'yup';
import { answer, body, whole } from '../../../answer';
import { conversionSchema } from '../../../fields';

const schema = conversionSchema
  .shape({ name: yup.string().trim().min(1).max(80).required() })
  .noUnknown();

/** Keeps what a conversion was asked for as a brief of the project, and answers it. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { name, sounds, wish } = await body(request, schema);
  return bijou.ownBriefs.keep(whole(params['project'], 'project'), name, sounds, wish);
});
