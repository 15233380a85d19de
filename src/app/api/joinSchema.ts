import * as yup from 'yup';
import { MOST_PARTS, type Join } from '@/core/join/plan';
import { loopPieces, type LoopPiece } from '@/core/loop/parts';
import { rate } from './fields';

/** A join as it comes from outside. */
export const joinSchema: yup.ObjectSchema<Join> = yup
  .object({
    parts: yup
      .array(
        yup
          .object({
            soundId: yup.number().integer().required(),
            gapSeconds: yup.number().min(-3_600).max(3_600).required(),
            piece: yup
              .mixed<LoopPiece>()
              .oneOf(Object.keys(loopPieces) as LoopPiece[])
              .optional(),
          })
          .noUnknown()
          .required(),
      )
      .max(MOST_PARTS)
      .required(),
    overlap: yup.mixed<Join['overlap']>().oneOf(['crossfade', 'mix']).required(),
    rateHz: rate().nullable().defined(),
    channelCount: yup.number().integer().oneOf([1, 2]).nullable().defined(),
  })
  .noUnknown();
