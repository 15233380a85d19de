import { MOST_BRIEF_BYTES } from '@/core/brief/exchange';
import { answer, textOf, whole } from '../../../../answer';

/** Takes in the file of a brief, and answers it with the fields that are not known here. */
export const POST = answer(async ({ request, params, bijou }) => {
  const project = whole(params['project'], 'project');
  return bijou.ownBriefs.bringIn(project, await textOf(request, MOST_BRIEF_BYTES));
});
