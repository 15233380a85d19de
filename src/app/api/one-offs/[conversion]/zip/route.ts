import { answer, whole } from '../../../answer';
import { zipResponse } from '../../../files';

/** All finished files of a conversion as a zip. */
export const GET = answer(async ({ params, bijou }) =>
  zipResponse(bijou.oneOffs.zip(whole(params['conversion'], 'conversion'))),
);
