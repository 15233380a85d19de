import { answer, whole } from '../../../../answer';
import { shownFile } from '../../../../shown';

/** Begins a brief from a file that works, the body, and answers it. */
export const POST = answer(async ({ request, params, bijou }) =>
  bijou.doctor.beginBrief(whole(params['project'], 'project'), shownFile(request)),
);
