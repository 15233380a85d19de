import { answer, whole } from '../../answer';

/** Everything that was measured in one trial. */
export const GET = answer(async ({ params, bijou }) =>
  bijou.comparisons.trialDetails(whole(params['trial'], 'trial')),
);
