import { answer, whole } from '../../../answer';
import { fileResponse } from '../../../files';

/** A converted file or, with `Range`, a part of it; with `?download` to be saved under its own name. */
export const GET = answer(({ request, params, bijou }) =>
  fileResponse(request, (asked) => bijou.oneOffs.file(whole(params['file'], 'file'), asked)),
);
