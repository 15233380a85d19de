import * as yup from 'yup';
import { answer, body, whole } from '../../../answer';

const schema = yup
  .object({
    files: yup
      .array(
        yup
          .object({
            path: yup.string().min(1).max(4_000).required(),
            bytes: yup.number().integer().min(0).required(),
          })
          .noUnknown()
          .required(),
      )
      .required(),
  })
  .noUnknown();

/** Announces files that are about to be sent; each wanted one is then sent to its arrival. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { id } = bijou.projectById(whole(params['project'], 'project'));
  const { files } = await body(request, schema);
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
