import { answer, whole } from '../../../../answer';

/** A few sounds of a project that are as different as can be, each with why. */
export const GET = answer(async ({ request, params, bijou }) =>
  bijou.comparisons.few(whole(params['project'], 'project'), request.signal),
);
