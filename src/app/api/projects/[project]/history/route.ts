import * as yup from 'yup';
import type { Gone } from '@/wire';
import { answer, body, whole } from '../../../answer';
import { changeField } from '../../../fields';

const schema = yup
  .object({ go: yup.string().oneOf(['back', 'forward']).required(), change: changeField })
  .noUnknown();

/** Undoes the last change of a project, or the one that is named, or does it again. Answers what it was. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { go, change } = await body(request, schema);
  const projectId = whole(params['project'], 'project');
  const { undo, redo, history } = bijou.edits;
  const title = (go === 'back' ? undo : redo)(projectId, change);
  return { title, ...history(projectId) } satisfies Gone;
});
