import * as yup from 'yup';
import { answer, body, largeBody, whole } from '../../../answer';

/** Announces files that are about to be sent; each wanted one is then sent to its arrival. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { id } = bijou.projectById(whole(params['project'], 'project'));
  const { files } = await largeBody(request, bijou, 'intakes');
  return bijou.intakes.begin(id, files);
});

const ending = yup
  .object({ end: yup.string().oneOf(['cancel', 'dismiss']).required() })
  .noUnknown();

/** Forgets what has not arrived yet, or puts the whole summary away. */
export const PATCH = answer(async ({ request, params, bijou }) => {
  const projectId = whole(params['project'], 'project');
  const { end } = await body(request, ending);
  if (end === 'dismiss') return bijou.intakes.dismiss(projectId);
  bijou.intakes.cancel(projectId);
  await bijou.jobs.cancelAll(projectId, ['unpack', 'read']);
});
