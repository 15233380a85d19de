import * as yup from 'yup';
import { LANGUAGE } from '@/core/brief/schema';
import { tempoLimits } from '@/core/tempo';
import { MOST_SOUNDS, revisionField } from './fields';

/** What is other about sounds. */
export const edited = yup
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
