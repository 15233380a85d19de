import { answer, whole } from '../../answer';

/** Forgets a saved recipe. */
export const DELETE = answer(async ({ params, bijou }) =>
  bijou.shaping.forget(whole(params['recipe'], 'recipe')),
);
