import { answer, whole } from '../../../answer';

/** Reads a sound, or joins it, once more after that failed or was cancelled. */
export const POST = answer(async ({ params, bijou }) => {
  const { id, join } = bijou.sounds.byId(whole(params['sound'], 'sound'));
  if (join) bijou.joins.again(id);
  else bijou.sounds.readAgain(id);
});
