import { answer, largeBody, whole } from '../../../answer';

/** Changes names, groups, labels and notes of sounds, or takes them out: one step of the history. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { edits, revision } = await largeBody(request, bijou, 'edits');
  return bijou.edits.edit(whole(params['project'], 'project'), edits, revision);
});
