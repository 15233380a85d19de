import { answer, whole } from '../../../answer';

/** Every channel of a sound as a sound of its own; the sound itself stays. Answers the new ones. */
export const POST = answer(async ({ params, bijou }) =>
  bijou.sounds.split(whole(params['sound'], 'sound')),
);
