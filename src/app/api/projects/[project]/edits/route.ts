import * as yup from 'yup';
import { LANGUAGE } from '@/core/brief/schema';
import { tempoLimits } from '@/core/tempo';
import { answer, body, whole } from '../../../answer';
import { MOST_SOUNDS, revisionField } from '../../../fields';

const schema = yup
  .object({
    edits: yup
      .array(
        yup
          .object({
            soundId: yup.number().integer().required(),
            name: yup.string().trim().min(1).max(200).optional(),
            group: yup.string().max(400).optional(),
            labels: yup.array(yup.string().trim().min(1).max(40).required()).max(20).optional(),
            language: yup.string().matches(LANGUAGE).nullable().default(undefined),
            note: yup.string().max(2_000).optional(),
            tempo: yup
              .object({
                bpm: yup.number().min(tempoLimits.bpm.min).max(tempoLimits.bpm.max).required(),
                beatsPerBar: yup
                  .number()
                  .integer()
                  .min(tempoLimits.beatsPerBar.min)
                  .max(tempoLimits.beatsPerBar.max)
                  .required(),
              })
              .noUnknown()
              .nullable()
              .default(undefined),
            removed: yup.boolean().optional(),
          })
          .noUnknown()
          .required(),
      )
      .min(1)
      .max(MOST_SOUNDS)
      .required(),
    revision: revisionField,
  })
  .noUnknown();

/** Changes names, groups, labels and notes of sounds, or takes them out: one step of the history. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { edits, revision } = await body(request, schema);
  return bijou.edits.edit(whole(params['project'], 'project'), edits, revision);
});
