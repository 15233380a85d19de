import { answer, whole } from '../../../../../answer';

/** What the files of a sound for a destination will come to together, in bytes, before they are built. */
export const GET = answer(async ({ request, params, bijou }) => {
  const sound = bijou.sounds.byId(whole(params['sound'], 'sound'));
  return bijou.estimates.ofAssignment(sound, params['brief'] ?? '', request.signal);
});
