import { answer, whole } from '../../../answer';
import { shownFile } from '../../../shown';

/** Holds a finished file, the body, against every brief of the project; nothing of it is kept. */
export const POST = answer(async ({ request, params, bijou }) =>
  bijou.doctor.examine(whole(params['project'], 'project'), shownFile(request)),
);
