import * as yup from 'yup';
import { answer, body, whole } from '../../../answer';
import { joinSchema } from '../../../joinSchema';

const schema = yup
  .object({ name: yup.string().trim().min(1).max(200).required(), join: joinSchema.required() })
  .noUnknown();

/** Joins sounds into a new one that follows when they change. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { name, join } = await body(request, schema);
  const { id } = bijou.projectById(whole(params['project'], 'project'));
  return bijou.joins.create(id, name, join);
});
