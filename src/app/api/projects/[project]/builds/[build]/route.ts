import { answer, whole } from '../../../../answer';

/** One build with its files. */
export const GET = answer(async ({ params, bijou }) =>
  bijou.builds.details(whole(params['project'], 'project'), whole(params['build'], 'build')),
);
