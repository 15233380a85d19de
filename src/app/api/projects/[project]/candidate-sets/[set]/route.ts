import { answer, whole } from '../../../../answer';

/** Forgets a set. Answers all others. */
export const DELETE = answer(async ({ params, bijou }) =>
  bijou.candidateSets.forget(whole(params['project'], 'project'), whole(params['set'], 'set')),
);
