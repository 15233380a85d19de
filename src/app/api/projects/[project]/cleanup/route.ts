import { answer, whole } from '../../../answer';

/** What a clean-up would free. */
export const GET = answer(async ({ params, bijou }) =>
  bijou.cleaning.waste(whole(params['project'], 'project')),
);

/** Deletes for good what was taken out or replaced. */
export const POST = answer(async ({ params, bijou }) =>
  bijou.cleaning.cleanUp(whole(params['project'], 'project')),
);
