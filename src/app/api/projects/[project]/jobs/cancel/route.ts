import * as yup from 'yup';
import { answer, body, whole } from '../../../../answer';

const schema = yup
  .object({
    kind: yup.string().max(40).optional(),
    subjectId: yup.number().integer().min(0).optional(),
  })
  .noUnknown();

/** Cancels what is queued or running of a project: everything, or what is done about one thing. */
export const POST = answer(async ({ request, params, bijou }) => {
  const projectId = whole(params['project'], 'project');
  const { kind, subjectId } = await body(request, schema);
  if (kind !== undefined && subjectId !== undefined) {
    return bijou.jobs.cancelOf(projectId, kind, subjectId);
  }
  await bijou.jobs.cancelAll(projectId);
});
