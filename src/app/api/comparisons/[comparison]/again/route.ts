import { answer, whole } from '../../../answer';

/** The same candidates on the same sounds once more, as a run of its own. */
export const POST = answer(async ({ params, bijou }) =>
  bijou.comparisons.details(bijou.trying.again(whole(params['comparison'], 'comparison'))),
);
