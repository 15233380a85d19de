import { answer, body, whole } from '../../../answer';
import { wishSchema } from '../../../fields';

/** What a sound will come to as a file, in bytes. */
export const POST = answer(async ({ request, params, bijou }) => {
  const sound = bijou.sounds.byId(whole(params['sound'], 'sound'));
  const wish = await body(request, wishSchema);
  return bijou.oneOffs.estimate(sound, wish, request.signal);
});
