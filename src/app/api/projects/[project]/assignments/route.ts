import * as yup from 'yup';
import { answer, body, whole } from '../../../answer';
import { choicesSchema, MOST_SOUNDS, revisionField } from '../../../fields';

const schema = yup
  .object({
    sounds: yup.array(yup.number().integer().required()).min(1).max(MOST_SOUNDS).required(),
    briefs: yup.array(yup.string().max(100).required()).min(1).max(100).required(),
    /** Sent no more. */
    release: yup.boolean().optional(),
    choices: choicesSchema.optional().default(undefined),
    /** Taken as with all changes; where sounds are sent is joined to what others chose, not written over it. */
    revision: revisionField,
  })
  .noUnknown();

/** Sends many sounds to destinations, with choices that hold for all of them, or no more: one step of the history. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { release, choices, sounds, briefs } = await body(request, schema);
  const sending = { sounds, briefs };
  const project = whole(params['project'], 'project');
  return release
    ? bijou.packs.release(project, sending)
    : bijou.packs.send(project, sending, choices);
});
