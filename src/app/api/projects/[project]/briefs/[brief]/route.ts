import { answer, whole } from '../../../../answer';

/** Forgets a brief of one's own to which no sound goes. */
export const DELETE = answer(async ({ params, bijou }) => {
  bijou.ownBriefs.forget(whole(params['project'], 'project'), params['brief'] ?? '');
});
