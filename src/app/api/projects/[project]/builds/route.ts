import * as yup from 'yup';
import { answer, body, whole } from '../../../answer';
import { MOST_SOUNDS } from '../../../fields';

const schema = yup
  .object({ assignments: yup.array(yup.number().integer().required()).max(MOST_SOUNDS).optional() })
  .noUnknown();

/** The builds that are kept, newest first. */
export const GET = answer(async ({ params, bijou }) =>
  bijou.builds.list(whole(params['project'], 'project')),
);

/** Builds all assignments of a project, or those that are named. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { assignments } = await body(request, schema);
  return { buildId: bijou.packs.build(whole(params['project'], 'project'), assignments) };
});
