import { answer, whole } from '../../../answer';
import { fileResponse } from '../../../files';

/** A finished file or, with `Range`, a part of it; with `?download` to be saved under its own name. */
export const GET = answer(({ request, params, bijou }) =>
  fileResponse(request, (asked) => bijou.packs.file(whole(params['output'], 'output'), asked)),
);
