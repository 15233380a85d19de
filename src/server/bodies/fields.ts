import * as yup from 'yup';
import {
  clippingChoices,
  monoChoices,
  type ChangedChoices,
  type Choices,
  type ClippingChoice,
  type MonoChoice,
} from '@/core/brief/choices';
import { HIGHEST_HZ, LOWEST_HZ } from '@/core/pcm/rates';

/** Most sounds that one request may name. */
export const MOST_SOUNDS = 50_000;

/** The revision on which a change was made: where sounds were changed since, it is refused. */
export const revisionField = yup.number().integer().min(0).optional();

/** A rate that sound can have, in Hz. */
export const rate = () => yup.number().integer().min(LOWEST_HZ).max(HIGHEST_HZ);

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
