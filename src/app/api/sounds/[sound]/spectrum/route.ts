import { answer, whole } from '../../../answer';

/** The mean spectrum of a sound's source; null for silence. */
export const GET = answer(async ({ params, bijou }) =>
  bijou.sounds.spectrum(whole(params['sound'], 'sound')),
);
