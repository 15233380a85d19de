import { answer, whole } from '../../../answer';

/** Brings a deleted project back. */
export const POST = answer(async ({ params, bijou }) =>
  bijou.projects.bringBack(whole(params['project'], 'project')),
);
