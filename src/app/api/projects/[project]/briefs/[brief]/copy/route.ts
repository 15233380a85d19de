import { answer, whole } from '../../../../../answer';

/** Copies a brief, so that the copy can be edited, and answers the copy. */
export const POST = answer(async ({ params, bijou }) =>
  bijou.ownBriefs.copy(whole(params['project'], 'project'), params['brief'] ?? ''),
);
