import { answer, whole } from '../../../answer';
import { fileResponse } from '../../../files';

/** A candidate's file. */
export const GET = answer(async ({ request, params, bijou }) => {
  const trial = whole(params['trial'], 'trial');
  return fileResponse(request, (asked) => bijou.comparisons.file(trial, asked));
});
