import * as yup from 'yup';
import { answer, body, whole } from '../../../answer';
import { choicesSchema, MOST_SOUNDS, revisionField } from '../../../fields';

/** As many as the largest project has. */
const MOST_PAIRS = 200_000;

const schema = yup
  .object({
    /** Each of these sounds with each of these destinations … */
    sounds: yup.array(yup.number().integer().required()).min(1).max(MOST_SOUNDS).optional(),
    briefs: yup.array(yup.string().max(100).required()).min(1).max(100).optional(),
    /** … or single pairs. */
    pairs: yup
      .array(
        yup
          .object({
            sound: yup.number().integer().required(),
            brief: yup.string().max(100).required(),
          })
          .noUnknown()
          .required(),
      )
      .min(1)
      .max(MOST_PAIRS)
      .optional(),
    /** Sent no more. */
    release: yup.boolean().optional(),
    choices: choicesSchema.optional().default(undefined),
    /** Taken as with all changes; where sounds are sent is joined to what others chose, not written over it. */
    revision: revisionField,
  })
  .noUnknown()
  .test(
    'one-of',
    'Name sounds and briefs, or pairs of them.',
    ({ sounds, briefs, pairs }) => Boolean(sounds && briefs) !== Boolean(pairs),
  );

/** Sends many sounds to destinations, with choices that hold for all of them, or no more: one step of the history. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { release, choices, sounds, briefs, pairs } = await body(request, schema);
  const sending = pairs ? { pairs } : { sounds: sounds!, briefs: briefs! };
  const project = whole(params['project'], 'project');
  return release
    ? bijou.packs.release(project, sending)
    : bijou.packs.send(project, sending, choices);
});
