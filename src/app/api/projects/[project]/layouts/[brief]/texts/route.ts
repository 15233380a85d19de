import { answer, whole } from '../../../../../answer';

/** The texts of a destination's pack as they would be written now. */
export const GET = answer(async ({ params, bijou }) =>
  bijou.layouts.texts(whole(params['project'], 'project'), params['brief'] ?? ''),
);
