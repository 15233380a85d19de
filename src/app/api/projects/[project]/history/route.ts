import * as yup from 'yup';
import { answer, body, whole } from '../../../answer';

const schema = yup.object({ go: yup.string().oneOf(['back', 'forward']).required() }).noUnknown();

/** Undoes the last change of a project, or does it again. Answers what it was. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { go } = await body(request, schema);
  const projectId = whole(params['project'], 'project');
  return { title: go === 'back' ? bijou.edits.undo(projectId) : bijou.edits.redo(projectId) };
});
