import * as yup from 'yup';
import { answer, body, whole } from '../../../answer';
import { MOST_SOUNDS, revisionField } from '../../../fields';

const schema = yup
  .object({
    code: yup.string().required(),
    sounds: yup.array(yup.number().integer().required()).min(1).max(MOST_SOUNDS).required(),
    answer: yup.string().oneOf(['cure', 'set-aside', 'take-up']).required(),
    revision: revisionField,
    note: yup.string().trim().max(500).default(''),
  })
  .noUnknown();

/** Cures a worry of one or many sounds, sets it aside with a note, or takes it up again. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { code, sounds, answer: kind, note, revision } = await body(request, schema);
  const projectId = whole(params['project'], 'project');
  if (kind === 'cure') return bijou.worries.cure(projectId, code, sounds, revision);
  if (kind === 'take-up') return bijou.worries.takeUp(projectId, code, sounds);
  return bijou.worries.setAside(projectId, code, sounds, note);
});
