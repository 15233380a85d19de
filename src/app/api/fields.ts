import * as yup from 'yup';
import {
  clippingChoices,
  monoChoices,
  type ChangedChoices,
  type Choices,
  type ClippingChoice,
  type MonoChoice,
} from '@/core/brief/choices';
import type { Candidate } from '@/core/compare/candidates/candidate';
import { BijouError } from '@/core/errors';
import { writers } from '@/core/formats';
import type { WishedChannels } from '@/core/oneOff/plan';
import { HIGHEST_HZ, LOWEST_HZ } from '@/core/pcm/rates';
import type { NormaliseParams } from '@/core/recipe/steps/normalise';
import { whole } from './answer';

/** Most sounds that one request may name. */
export const MOST_SOUNDS = 50_000;

/** The revision on which a change was made: where sounds were changed since, it is refused. */
export const revisionField = yup.number().integer().min(0).optional();

/** The step of the history that is meant: where it cannot be the next one any more, nothing is done. */
export const changeField = yup.number().integer().min(1).optional();

/** A rate that sound can have, in Hz. */
export const rate = () => yup.number().integer().min(LOWEST_HZ).max(HIGHEST_HZ);

export const projectName = yup
  .object({ name: yup.string().trim().min(1).max(80).required() })
  .noUnknown();

/** Whether it holds numbers by their names, for each of a brief's files. */
function isSettings(value: unknown): boolean {
  return Object.values(value ?? {}).every(
    (file) =>
      typeof file === 'object' &&
      file !== null &&
      Object.values(file).every((one) => typeof one === 'number'),
  );
}

/** What a person decided for a sound at a brief; null takes a choice back. */
export const choicesSchema: yup.Schema<ChangedChoices> = yup
  .object({
    mono: yup
      .mixed<MonoChoice>()
      .oneOf([...monoChoices])
      .nullable()
      .optional(),
    clipping: yup
      .mixed<ClippingChoice>()
      .oneOf([...clippingChoices])
      .nullable()
      .optional(),
    ceilingDbtp: yup.number().min(-24).max(0).nullable().optional(),
    levelBehind: yup.boolean().nullable().optional(),
    isWholeLoop: yup.boolean().nullable().optional(),
    rateHz: rate().nullable().optional(),
    isMono: yup.boolean().nullable().optional(),
    seconds: yup.number().min(0.01).max(86_400).nullable().optional(),
    /** By the brief's files. */
    settings: yup
      .mixed<NonNullable<Choices['settings']>>()
      .test('numbers', '${path} must hold numbers by names by files', isSettings)
      .nullable()
      .optional(),
    name: yup.string().trim().max(200).nullable().optional(),
    prefix: yup.string().max(40).nullable().optional(),
    slots: yup.array(yup.string().max(240).required()).max(2_000).nullable().optional(),
  })
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
