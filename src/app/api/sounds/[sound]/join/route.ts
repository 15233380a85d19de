import { answer, body, whole } from '../../../answer';
import { joinSchema } from '../../../joinSchema';

/** Changes which sounds a joined sound is made of. */
export const PUT = answer(async ({ request, params, bijou }) => {
  const join = await body(request, joinSchema);
  return bijou.joins.setJoin(whole(params['sound'], 'sound'), join);
});

/** Joins it again after that failed or was cancelled. */
export const POST = answer(async ({ params, bijou }) => {
  bijou.joins.again(whole(params['sound'], 'sound'));
});
