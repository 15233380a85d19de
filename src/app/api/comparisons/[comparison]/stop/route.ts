import { answer, whole } from '../../../answer';

/** Stops what is not finished of a run; what is measured stays. */
export const POST = answer(async ({ params, bijou }) => {
  const comparison = whole(params['comparison'], 'comparison');
  bijou.trying.stop(comparison);
  return bijou.comparisons.details(comparison);
});
