import { answer, whole } from '../../../answer';

/** Files that were announced and have not arrived. */
export const GET = answer(async ({ params, bijou }) =>
  bijou.intakes.arrivals(whole(params['project'], 'project'), 'waiting'),
);
