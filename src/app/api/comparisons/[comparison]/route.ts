import { answer, whole } from '../../answer';

/** A run with its trials, as far as they are. */
export const GET = answer(async ({ params, bijou }) =>
  bijou.comparisons.details(whole(params['comparison'], 'comparison')),
);

/** Forgets a run. */
export const DELETE = answer(async ({ params, bijou }) =>
  bijou.trying.forget(whole(params['comparison'], 'comparison')),
);
