import * as yup from 'yup';
import { monoChoices, type MonoChoice } from '@/core/brief/plan';
import { answer, body, whole } from '../../../../answer';

const schema = yup
  .object({
    mono: yup
      .mixed<MonoChoice>()
      .oneOf([...monoChoices])
      .optional(),
  })
  .noUnknown();

/** Sends a sound to a brief, with the choices made for it. */
export const PUT = answer(async ({ request, params, bijou }) => {
  const sound = bijou.sounds.byId(whole(params['sound'], 'sound'));
  bijou.packs.assign(sound, params['brief'] ?? '', await body(request, schema));
});

export const DELETE = answer(async ({ params, bijou }) => {
  const sound = bijou.sounds.byId(whole(params['sound'], 'sound'));
  bijou.packs.unassign(sound, params['brief'] ?? '');
});
