import * as yup from 'yup';
import { clippingChoices, type ClippingChoice } from '@/core/brief/choices';
import type { Candidate } from '@/core/compare/candidates/candidate';
import { BijouError } from '@/core/errors';
import { writers } from '@/core/formats';
import type { WishedChannels } from '@/core/oneOff/plan';
import type { NormaliseParams } from '@/core/recipe/steps/normalise';
import { MOST_SOUNDS, rate } from '@/server/bodies/fields';
import { whole } from './answer';

export { choicesSchema, MOST_SOUNDS, rate, revisionField } from '@/server/bodies/fields';

/** The step of the history that is meant: where it cannot be the next one any more, nothing is done. */
export const changeField = yup.number().integer().min(1).optional();

export const projectName = yup
  .object({ name: yup.string().trim().min(1).max(80).required() })
  .noUnknown();

/** What may be asked of a conversion without a destination. */
export const wishSchema = yup
  .object({
    writer: yup.string().required(),
    settings: yup.object().required(),
    isStrict: yup.boolean().optional(),
    rateHz: rate().optional(),
    channels: yup.mixed<WishedChannels>().oneOf(['mix', 'left', 'right', 'stereo']).optional(),
    isBare: yup.boolean().optional(),
    clipping: yup
      .mixed<ClippingChoice>()
      .oneOf([...clippingChoices])
      .optional(),
    together: yup
      .object({
        to: yup.mixed<NormaliseParams['to']>().oneOf(['peak', 'true-peak', 'lufs']).required(),
        target: yup.number().min(-70).max(0).required(),
      })
      .default(undefined),
  })
  .noUnknown();

/** Sounds, and what is asked of their conversion. */
export const conversionSchema = yup
  .object({
    sounds: yup.array(yup.number().integer().required()).max(MOST_SOUNDS).required(),
    wish: wishSchema.required(),
  })
  .noUnknown();

/** One codec setting under comparison. */
const candidateSchema: yup.ObjectSchema<Candidate> = yup
  .object({
    writer: yup
      .string()
      .oneOf(writers.map(({ id }) => id))
      .required(),
    settings: yup.object().required(),
    rateHz: rate().optional(),
    channels: yup.mixed<'mix' | 'stereo'>().oneOf(['mix', 'stereo']).optional(),
  })
  .noUnknown();

const MOST_CANDIDATES = 200;
const candidateList = () => yup.array(candidateSchema.required()).max(MOST_CANDIDATES).required();

/** Candidates, and the sounds on which they are tried. */
export const comparisonSchema = yup
  .object({
    sounds: yup.array(yup.number().integer().required()).max(MOST_SOUNDS).required(),
    candidates: candidateList(),
  })
  .noUnknown();

/** Candidates that are asked for by how they are written, or by one of them. */
export const candidateQuerySchema = yup
  .object({
    texts: yup.array(yup.string().max(80).required()).max(MOST_CANDIDATES).optional(),
    around: candidateSchema.default(undefined),
  })
  .noUnknown();

/** Candidates under a name. */
export const candidateSetSchema = yup
  .object({
    name: yup.string().trim().min(1).max(80).required(),
    candidates: candidateList(),
  })
  .noUnknown();

/** More than a screen shows at a time. */
const MOST_IDS = 500;

/** The ids that `?of=1,2,3` names. @throws bad-setting, too-large */
export function idsOf(request: Request): number[] {
  const of = new URL(request.url).searchParams.get('of') ?? '';
  const ids = of.split(',').map((id) => whole(id, 'of'));
  if (ids.length <= MOST_IDS) return ids;
  throw new BijouError('too-large', 'Too many at a time.', `Ask for ${MOST_IDS} or fewer.`);
}
