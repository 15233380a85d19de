import { answer, whole } from '../../answer';

export const GET = answer(async ({ params, bijou }) =>
  bijou.projectState(whole(params['project'], 'project')),
);
