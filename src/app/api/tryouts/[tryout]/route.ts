import { answer, whole } from '../../answer';

/** How far a file is that is made only to be heard, and what it came to. */
export const GET = answer(async ({ params, bijou }) =>
  bijou.fitting.tryout(whole(params['tryout'], 'tryout')),
);
