import { answer, body, whole } from '../../../../answer';
import { choicesSchema } from '../../../../fields';

/** Sends a sound to a brief, with the choices made for it. */
export const PUT = answer(async ({ request, params, bijou }) => {
  const sound = bijou.sounds.byId(whole(params['sound'], 'sound'));
  return bijou.packs.assign(sound, params['brief'] ?? '', await body(request, choicesSchema));
});

export const DELETE = answer(async ({ params, bijou }) => {
  const sound = bijou.sounds.byId(whole(params['sound'], 'sound'));
  return bijou.packs.unassign(sound, params['brief'] ?? '');
});
