import { answer, whole } from '../../../../answer';

/** Cancels everything that is queued or running of a project. */
export const POST = answer(async ({ params, bijou }) =>
  bijou.jobs.cancelAll(whole(params['project'], 'project')),
);
