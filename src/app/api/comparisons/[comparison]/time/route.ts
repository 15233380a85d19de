import { answer, whole } from '../../../answer';

/** Measures anew what decoding costs. */
export const POST = answer(async ({ params, bijou }) => {
  const comparison = whole(params['comparison'], 'comparison');
  bijou.trying.timeAgain(comparison);
  return bijou.comparisons.details(comparison);
});
