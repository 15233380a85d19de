import { answer, whole } from '../../../../../answer';

/** What would make a sound's files at a brief small enough, each with what it would come to. */
export const GET = answer(async ({ request, params, bijou }) =>
  bijou.fitting.remedies(
    bijou.sounds.byId(whole(params['sound'], 'sound')),
    params['brief'] ?? '',
    request.signal,
  ),
);
