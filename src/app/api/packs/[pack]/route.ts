import { answer, whole } from '../../answer';

/** Everything about a pack; with `?since=` what differs from an earlier one. */
export const GET = answer(async ({ request, params, bijou }) => {
  const since = new URL(request.url).searchParams.get('since');
  return bijou.packing.details(
    whole(params['pack'], 'pack'),
    since === null ? null : whole(since, 'since'),
  );
});

/** Takes a pack out of the list; for a day it can be brought back. */
export const DELETE = answer(async ({ params, bijou }) => {
  bijou.packing.remove(whole(params['pack'], 'pack'));
});
