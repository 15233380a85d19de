import * as yup from 'yup';
import { answer, body, whole } from '../../../answer';

const schema = yup
  .object({ assignments: yup.array(yup.number().integer().required()).optional() })
  .noUnknown();

/** Builds all assignments of a project, or those that are named. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { assignments } = await body(request, schema);
  return { buildId: bijou.packs.build(whole(params['project'], 'project'), assignments) };
});
