import { answer, whole } from '../../../answer';

/** The same source with the same recipe as another sound. */
export const POST = answer(async ({ params, bijou }) =>
  bijou.sounds.copy(whole(params['sound'], 'sound')),
);
