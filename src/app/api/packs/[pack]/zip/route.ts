import { answer, whole } from '../../../answer';
import { zipResponse } from '../../../files';

/** A pack as a zip; with `?since=` only what is other than in an earlier one. */
export const GET = answer(async ({ request, params, bijou }) => {
  const since = new URL(request.url).searchParams.get('since');
  const pack = whole(params['pack'], 'pack');
  return zipResponse(
    since === null ? bijou.packing.zip(pack) : bijou.packing.patch(pack, whole(since, 'since')),
  );
});
