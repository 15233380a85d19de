import { idsOf } from '../../../fields';
import { answer, whole } from '../../../answer';

/** The small pictures of the sounds that `?of=` names, by sound; null for those that were read before there were any. */
export const GET = answer(async ({ request, params, bijou }) =>
  bijou.sounds.thumbnails(whole(params['project'], 'project'), idsOf(request)),
);
