import { answer, whole } from '../../../../../answer';
import { zipResponse } from '../../../../../files';

/** The files of one build as a zip. */
export const GET = answer(async ({ params, bijou }) =>
  zipResponse(
    bijou.builds.zip(whole(params['project'], 'project'), whole(params['build'], 'build')),
  ),
);
