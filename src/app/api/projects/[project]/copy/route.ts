import { answer, whole } from '../../../answer';

/** The same project once more. */
export const POST = answer(async ({ params, bijou }) =>
  bijou.projects.copy(whole(params['project'], 'project')),
);
