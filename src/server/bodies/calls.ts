import * as yup from 'yup';
import { MOST_CALLS, MOST_VARIANTS, ways, type Way } from '@/core/pack/calls/calls';

const call = yup
  .object({
    id: yup.string().max(1_000).defined(),
    variants: yup
      .array(
        yup
          .object({
            soundId: yup.number().integer().required(),
            odds: yup.number().required(),
          })
          .noUnknown()
          .required(),
      )
      .max(MOST_VARIANTS)
      .required(),
    levelDb: yup.number().required(),
    pitch: yup.tuple([yup.number().required(), yup.number().required()]).required(),
    read: yup
      .mixed<Way>()
      .oneOf(Object.keys(ways) as Way[])
      .required(),
  })
  .noUnknown();

/** The calls of a destination's pack. */
export const called = yup
  .object({
    /** null for those that names make. What is wrong with them is said where the pack is looked at. */
    calls: yup.array(call.required()).max(MOST_CALLS).nullable().defined(),
  })
  .noUnknown();
