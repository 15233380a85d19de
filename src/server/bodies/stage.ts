import * as yup from 'yup';
import {
  acts,
  MOST_FADE_SECONDS,
  MOST_HINT_LETTERS,
  MOST_HINT_SECONDS,
  MOST_LEVEL,
  triggerIds,
  type Act,
  type SoundChoice,
  type Trigger,
} from '@/core/host/filter/choices';
import { MOST_SOUNDS } from './fields';

const amount = (most: number) => yup.number().min(0).max(most).required();
const act = yup
  .mixed<Act>()
  .oneOf(Object.keys(acts) as Act[])
  .required();
const choice = yup
  .object({
    acts: yup
      .object(Object.fromEntries(triggerIds.map((id) => [id, act])) as Record<Trigger, typeof act>)
      .noUnknown()
      .required(),
    fade: amount(MOST_FADE_SECONDS),
    isLoop: yup.boolean().required(),
    level: amount(MOST_LEVEL),
  })
  .noUnknown();

/** What is set on the filter stage. */
export const staged = yup
  .object({
    /** null for what is usual. */
    stage: yup
      .object({
        sounds: yup
          .mixed<Record<string, SoundChoice>>()
          .test('sounds', '${path} must hold what is set for sounds by their paths', isChoices)
          .required(),
        hint: yup
          .object({
            text: yup.string().max(MOST_HINT_LETTERS).defined(),
            from: amount(MOST_HINT_SECONDS),
            seconds: amount(MOST_HINT_SECONDS),
          })
          .noUnknown()
          .required(),
      })
      .noUnknown()
      .nullable()
      .defined(),
  })
  .noUnknown();

function isChoices(value: unknown): boolean {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return false;
  const entries = Object.entries(value);
  return (
    entries.length <= MOST_SOUNDS &&
    entries.every(
      ([path, one]) => path.length <= 1_000 && choice.isValidSync(one, { strict: true }),
    )
  );
}
