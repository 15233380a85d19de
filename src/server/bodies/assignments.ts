import * as yup from 'yup';
import { choicesSchema, MOST_SOUNDS, revisionField } from './fields';

/** As many as the largest project has. */
const MOST_PAIRS = 200_000;

/** Sounds and the destinations that they are sent to. */
export const sent = yup
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
